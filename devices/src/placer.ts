import { nozzleName } from '@keen-relay/core/balance';
import type { Random } from '@keen-relay/core/numerics';
import { correctionUm, type Trim } from '@keen-relay/core/placement';
import type { Sender } from './message.ts';
import { Station } from './station.ts';
import type { SimPanel, Trouble, Work } from './work.ts';

const LOST_SHARE = 0.0012;
/** The simulated operator splices a new reel on when this many panels are left in the old one. */
const SPLICE_AT_PANELS = 3;

/** The nozzle that picks badly while that trouble lasts. */
const BAD_NOZZLE = 'N2';

/** How far parts land from where they should: each for itself, and the whole panel as its fiducials were found, µm. */
const PLACE_UM = 14;
const PANEL_UM = 4;
/** How far off parts are picked, and panels sit, while that trouble lasts at full strength, µm. */
const PICK_OFFSET_UM = { x: -55, y: 12 };
const PANEL_SHIFT_UM = 60;
/** Share of a cycle that is spent on placements, and share of circuits that come marked while that trouble lasts at full strength. */
const PLACING_SHARE = 0.85;
const MARKED_SHARE = 0.03;

/** What is placed once: which spindle takes it from which slot, and how it lies. */
interface Step {
	refDes: string;
	circuit: number;
	partNumber: string;
	slot: number;
	spindle: number;
	angleDeg: number;
	circuitDeg: number;
}

/** A simulated placer with its feeders and reels. */
export class Placer extends Station {
	readonly #left = new Map<number, number>();
	#badNozzleCleaned = false;
	readonly #steps: readonly Step[];
	/** Slots in which a wrong reel runs: the machine knows nothing of it. */
	readonly #wrongReels = new Set<number>();
	#trims: readonly Trim[];
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
			else if (servesItself) this.load(feeder, startedMs, false);
		this.#steps = stepsOf(work, machine);
		this.#trims = machine.trims ?? [];
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

	hearTrims(trims: readonly Trim[]): void {
		this.#trims = trims;
	}

	/** Nothing is placed from an empty slot. */
	private get emptySlot(): number | null {
		return this.machine.feeders.find((f) => (this.#left.get(f.slot) ?? 0) < f.perPanel)?.slot ?? null;
	}

	protected override next(nowMs: number): SimPanel | undefined {
		if (!this.servesItself && this.emptySlot !== null) return undefined;
		const panel = super.next(nowMs);
		if (panel) this.readSkipMarks(panel, nowMs);
		return panel;
	}

	protected override waits(): string | null {
		if (this.servesItself || this.queue.length === 0) return null;
		const slot = this.emptySlot;
		return slot === null ? null : `slot ${slot} is empty`;
	}

	private load(feeder: Placer['machine']['feeders'][number], nowMs: number, spliced: boolean): void {
		const code = () => this.random.integer(90000) + 10000;
		this.#left.set(feeder.slot, feeder.reelPieces);
		// Somebody has spliced on what lay nearest, and scanned nothing.
		if (spliced && this.trouble('wrongReel', nowMs) > 0) this.#wrongReels.add(feeder.slot);
		else this.#wrongReels.delete(feeder.slot);
		this.sender.send(nowMs, 'feeder_loaded', {
			runId: this.work.runId,
			slot: feeder.slot,
			partNumber: feeder.partNumber,
			reel: `RL${code()}${code() % 100}`,
			makerLot: `K${this.random.integer(9) + 1}-${code() % 10000}`,
			pieces: feeder.reelPieces,
			spliced
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

	/** Circuits that are marked take no time to place; the panel still comes in, is looked at and goes out. */
	protected override cycleS(panel: SimPanel): number {
		return this.machine.cycleS * (1 - PLACING_SHARE * this.skippedShare(panel)) * (1 + 0.012 * this.random.normal()) + 0.3;
	}

	private skippedShare(panel: SimPanel): number {
		return (panel.skipped?.length ?? 0) / this.work.circuits;
	}

	/** Bare boards come with a bad circuit now and then, marked by their maker; the first placer of a line reads the marks. */
	private readSkipMarks(panel: SimPanel, nowMs: number): readonly number[] {
		const marked = this.trouble('markedCircuits', nowMs);
		return (panel.skipped ??= Array.from({ length: this.work.circuits }, (_, i) => i).filter(
			() => marked > 0 && this.work.circuits > 1 && this.random.chance(MARKED_SHARE * marked)
		));
	}

	protected override report(panel: SimPanel, nowMs: number, cycleS: number): void {
		const lost: Record<string, number> = {};
		const bad = this.trouble('badReel', nowMs);
		// A nozzle that was cleaned since the trouble began picks well again.
		const badNozzle = this.#badNozzleCleaned ? 0 : this.trouble('badNozzle', nowMs);
		const counts = new Map<string, { slot: number; nozzle: string; picks: number; lost: number }>();
		const skipped = panel.skipped ?? [];
		for (const { slot, spindle, circuit } of this.#steps) {
			if (skipped.includes(circuit)) continue;
			const nozzle = nozzleName(spindle);
			const key = `${slot} ${nozzle}`;
			const count = counts.get(key) ?? { slot, nozzle, picks: 0, lost: 0 };
			counts.set(key, count);
			count.picks++;
			const share = slot === this.#badSlot ? LOST_SHARE + 0.06 * bad : LOST_SHARE;
			if (!this.random.chance(share + (nozzle === BAD_NOZZLE ? 0.05 * badNozzle : 0))) continue;
			lost[slot] = (lost[slot] ?? 0) + 1;
			// What was lost is picked once more.
			count.picks++;
			count.lost++;
		}
		for (const feeder of this.machine.feeders) {
			const taken = Math.round(feeder.perPanel * (1 - this.skippedShare(panel)));
			const left = Math.max(0, (this.#left.get(feeder.slot) ?? 0) - taken - (lost[feeder.slot] ?? 0));
			this.#left.set(feeder.slot, left);
			if (this.servesItself && left < SPLICE_AT_PANELS * feeder.perPanel) this.load(feeder, nowMs, true);
		}
		this.place(panel, nowMs);
		const nozzles = [...counts.values()];
		this.sender.send(nowMs, 'placement', { panel: panel.serial, cycleS: Math.round(cycleS * 100) / 100, lost, nozzles, skipped });
	}

	/** Puts its parts on the panel: where the program says, with what it adds by trims, and what it does wrong. */
	private place(panel: SimPanel, nowMs: number): void {
		const pickOffset = this.trouble('pickOffset', nowMs);
		const shift = this.trouble('panelShift', nowMs) * PANEL_SHIFT_UM + PANEL_UM;
		const whole = { x: shift * this.random.normal(), y: shift * this.random.normal() };
		const placed = (panel.placed ??= new Map<string, { dxUm: number; dyUm: number }>());
		for (const step of this.#steps) {
			if (panel.skipped?.includes(step.circuit)) continue;
			const off = step.slot === this.#badSlot ? pickOffset : 0;
			const trim = correctionUm(this.#trims, { ...step, feeder: String(step.slot) });
			if (this.#wrongReels.has(step.slot)) (panel.wrong ??= new Set()).add(`${step.refDes}.${step.circuit}`);
			placed.set(`${step.refDes}.${step.circuit}`, {
				dxUm: whole.x + PLACE_UM * this.random.normal() + off * PICK_OFFSET_UM.x + trim.dxUm,
				dyUm: whole.y + PLACE_UM * this.random.normal() + off * PICK_OFFSET_UM.y + trim.dyUm
			});
		}
	}
}

/** What a machine does for a panel, in the order of its program; where no program is known its spindles take turns. */
function stepsOf(work: Work, machine: Work['machines'][number]): Step[] {
	const numbers = new Map(work.parts.map((part) => [part.refDes, part]));
	const slots = new Map(machine.feeders.map(({ partNumber, slot }) => [partNumber, slot]));
	const own = new Map(machine.feeders.flatMap(({ refDes, partNumber }) => (refDes ?? []).map((r) => [r, partNumber] as const)));
	const step = (refDes: string, circuit: number, spindle: number): Step[] => {
		const partNumber = own.get(refDes) ?? numbers.get(refDes)?.partNumber ?? '';
		const slot = slots.get(partNumber);
		if (slot === undefined) return [];
		const circuitDeg = work.panel.origins[circuit]?.rotationDeg ?? 0;
		const angleDeg = ((numbers.get(refDes)?.rotationDeg ?? 0) + circuitDeg) % 360;
		return [{ refDes, circuit, partNumber, slot, spindle, angleDeg, circuitDeg }];
	};
	if (machine.placements) return machine.placements.flatMap(([refDes, circuit, spindle]) => step(refDes, circuit, spindle));
	const spindles = machine.spindles ?? 1;
	let next = 0;
	return machine.feeders.flatMap((feeder) =>
		Array.from({ length: feeder.perPanel }, (_, i): Step => {
			const names = feeder.refDes ?? [];
			const refDes = names[i % Math.max(1, names.length)] ?? `${feeder.partNumber} ${i + 1}`;
			const circuit = Math.floor(i / Math.max(1, names.length));
			const [known] = step(refDes, circuit, next++ % spindles);
			return (
				known ?? {
					refDes,
					circuit,
					partNumber: feeder.partNumber,
					slot: feeder.slot,
					spindle: (next - 1) % spindles,
					angleDeg: 0,
					circuitDeg: 0
				}
			);
		})
	);
}
