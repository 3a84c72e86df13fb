import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import { Station } from './station.ts';
import type { SimPanel, Work } from './work.ts';

const LOST_SHARE = 0.0012;
/** The simulated operator splices a new reel on when this many panels are left in the old one. */
const SPLICE_AT_PANELS = 3;

/** A simulated placer with its feeders, reels and an operator who splices. */
export class Placer extends Station {
	readonly #left = new Map<number, number>();
	#stopS = 0;

	constructor(
		sender: Sender,
		random: Random,
		handOn: (panel: SimPanel) => void,
		private readonly work: Work,
		private readonly machine: Work['machines'][number],
		nowMs: number
	) {
		super(sender, random, handOn);
		for (const feeder of machine.feeders)
			if (feeder.left === null) this.load(feeder, nowMs);
			else this.#left.set(feeder.slot, feeder.left);
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

	protected override stopped(nowMs: number, dtS: number): boolean {
		if (this.#stopS > 0) {
			this.#stopS -= dtS;
			if (this.#stopS > 0) return true;
			this.setState(nowMs, 'running');
		}
		// A pick that fails three times stops the machine until somebody clears it.
		if (this.working && this.random.chance(dtS / 5400)) {
			this.#stopS = 40 + 80 * this.random.uniform();
			const feeder = this.machine.feeders[this.random.integer(this.machine.feeders.length)]!;
			this.setState(nowMs, 'stopped', `pick failed at slot ${feeder.slot}`);
			return true;
		}
		return false;
	}

	protected override cycleS(): number {
		return this.machine.cycleS * (1 + 0.012 * this.random.normal()) + 0.3;
	}

	protected override report(panel: SimPanel, nowMs: number, cycleS: number): void {
		const lost: Record<string, number> = {};
		for (const feeder of this.machine.feeders) {
			let n = 0;
			for (let i = 0; i < feeder.perPanel; i++) if (this.random.chance(LOST_SHARE)) n++;
			if (n) lost[feeder.slot] = n;
			const left = Math.max(0, (this.#left.get(feeder.slot) ?? 0) - feeder.perPanel - n);
			this.#left.set(feeder.slot, left);
			if (left < SPLICE_AT_PANELS * feeder.perPanel) this.load(feeder, nowMs);
		}
		this.sender.send(nowMs, 'placement', { panel: panel.serial, cycleS: Math.round(cycleS * 100) / 100, lost });
	}
}
