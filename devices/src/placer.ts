import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import { Station } from './station.ts';
import type { SimPanel, Trouble, Work } from './work.ts';

const LOST_SHARE = 0.0012;
/** The simulated operator splices a new reel on when this many panels are left in the old one. */
const SPLICE_AT_PANELS = 3;

/** The nozzle that picks badly while that trouble lasts. */
const BAD_NOZZLE = 'N2';

/** A simulated placer with its feeders and reels. */
export class Placer extends Station {
	readonly #left = new Map<number, number>();
	#badNozzleCleaned = false;
	/** The reel in each slot, as the records know it. */
	readonly #reels = new Map<number, string>();

	constructor(
		sender: Sender,
		random: Random,
		handOn: (panel: SimPanel) => void,
		private readonly work: Work,
		private readonly machine: Work['machines'][number],
		private readonly startedMs: number,
		troubles: readonly Trouble[],
		/** Whether the simulated machine loads and splices by itself; else somebody does, and says so. */
		private readonly servesItself: boolean
	) {
		super(sender, random, handOn, troubles);
		for (const feeder of machine.feeders)
			if (feeder.left !== null) this.#left.set(feeder.slot, feeder.left);
			else if (servesItself) this.load(feeder, startedMs);
		this.hearReels(machine.feeders.map(({ slot, left, reel = null }) => ({ slot, left, reel })));
	}

	/** What somebody has loaded since: a reel that was not there before brings its pieces. */
	hearReels(feeders: readonly { slot: number; left: number | null; reel: string | null }[]): void {
		for (const { slot, left, reel } of feeders) {
			if (reel === null || left === null || this.#reels.get(slot) === reel) continue;
			this.#reels.set(slot, reel);
			if (!this.servesItself) this.#left.set(slot, left);
		}
	}

	hearCare(cleanedMs: Record<string, number>): void {
		this.#badNozzleCleaned ||= (cleanedMs[BAD_NOZZLE] ?? -Infinity) >= this.startedMs;
	}

	/** Nothing is placed from an empty slot. */
	private get emptySlot(): number | null {
		return this.machine.feeders.find((f) => (this.#left.get(f.slot) ?? 0) < f.perPanel)?.slot ?? null;
	}

	protected override next(nowMs: number): SimPanel | undefined {
		if (this.servesItself || this.emptySlot === null) return super.next(nowMs);
		return undefined;
	}

	protected override waits(): string | null {
		if (this.servesItself || this.queue.length === 0) return null;
		const slot = this.emptySlot;
		return slot === null ? null : `slot ${slot} is empty`;
	}

	private load(feeder: Placer['machine']['feeders'][number], nowMs: number): void {
		const code = () => this.random.integer(90000) + 10000;
		this.#left.set(feeder.slot, feeder.reelPieces);
		this.sender.send(nowMs, 'feeder_loaded', {
			runId: this.work.runId,
			slot: feeder.slot,
			partNumber: feeder.partNumber,
			reel: `RL${code()}${code() % 100}`,
			makerLot: `K${this.random.integer(9) + 1}-${code() % 10000}`,
			pieces: feeder.reelPieces
		});
	}

	/** The slot whose reel is bad while that trouble lasts: the same one of each machine. */
	get #badSlot(): number {
		return this.machine.feeders[Math.floor(this.machine.feeders.length * 0.6)]?.slot ?? 0;
	}

	/** A pick that fails three times stops the machine until somebody clears it. */
	protected override breaks(nowMs: number, dtS: number) {
		const bad = this.trouble('badReel', nowMs);
		if (bad > 0 && this.random.chance((dtS * bad) / 700))
			return { seconds: 60 + 90 * this.random.uniform(), reason: `pick failed at slot ${this.#badSlot}` };
		if (this.machine.feeders.length > 0 && this.random.chance(dtS / 5400)) {
			const feeder = this.machine.feeders[this.random.integer(this.machine.feeders.length)]!;
			return { seconds: 40 + 80 * this.random.uniform(), reason: `pick failed at slot ${feeder.slot}` };
		}
		return super.breaks(nowMs, dtS);
	}

	protected override cycleS(): number {
		return this.machine.cycleS * (1 + 0.012 * this.random.normal()) + 0.3;
	}

	protected override report(panel: SimPanel, nowMs: number, cycleS: number): void {
		const lost: Record<string, number> = {};
		const nozzles: { slot: number; nozzle: string; picks: number; lost: number }[] = [];
		const bad = this.trouble('badReel', nowMs);
		// A nozzle that was cleaned since the trouble began picks well again.
		const badNozzle = this.#badNozzleCleaned ? 0 : this.trouble('badNozzle', nowMs);
		const spindles = this.machine.spindles ?? 1;
		let spindle = 0;
		for (const feeder of this.machine.feeders) {
			let n = 0;
			const share = feeder.slot === this.#badSlot ? LOST_SHARE + 0.06 * bad : LOST_SHARE;
			const by = Array.from({ length: spindles }, (_, i) => ({ slot: feeder.slot, nozzle: `N${i + 1}`, picks: 0, lost: 0 }));
			for (let i = 0; i < feeder.perPanel; i++) {
				const nozzle = by[spindle++ % spindles]!;
				nozzle.picks++;
				if (!this.random.chance(share + (nozzle.nozzle === BAD_NOZZLE ? 0.05 * badNozzle : 0))) continue;
				n++;
				// What was lost is picked once more.
				nozzle.picks++;
				nozzle.lost++;
			}
			nozzles.push(...by.filter(({ picks }) => picks > 0));
			if (n) lost[feeder.slot] = n;
			const left = Math.max(0, (this.#left.get(feeder.slot) ?? 0) - feeder.perPanel - n);
			this.#left.set(feeder.slot, left);
			if (this.servesItself && left < SPLICE_AT_PANELS * feeder.perPanel) this.load(feeder, nowMs);
		}
		this.sender.send(nowMs, 'placement', { panel: panel.serial, cycleS: Math.round(cycleS * 100) / 100, lost, nozzles });
	}
}
