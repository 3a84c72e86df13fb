import { seededRandom } from '../numerics/index.ts';
import { axisTimeS, axisTimer } from './cycle-time.ts';
import { carrying, type PlacerSpec } from './machine.ts';
import {
	outOfOrder,
	placesOf,
	placingClass,
	precedence,
	serpentine,
	timeProgram,
	type Bench,
	type HeadProgram,
	type Placement
} from './program.ts';
import { shortestPath } from './tour.ts';

export interface Search {
	/** Changes that are tried; the same number and seed give the same program. */
	tries: number;
	seed?: number;
	/** What stands now, kept where nothing better is found; else the serpentine. */
	start?: HeadProgram;
	/** Slots that feeders may exchange; nothing: each stays where it is. */
	bank?: Bank;
	/** Seconds that a change may cost at the beginning: less where a search goes on from what one found. */
	warmS?: number;
}

export interface Bank {
	/** Slots that a feeder takes. */
	slots: Readonly<Record<string, number>>;
	/** Slots where nothing stands and something may: one-slot feeders move there. */
	free: readonly number[];
	/** Feeders that stay. */
	pinned: ReadonlySet<string>;
}

/** Seconds that a change may cost at the beginning and at the end: about a long move, and next to nothing. */
const WARM_S = 0.04;
const COLD_S = 0.0004;
/** Of the changes, those that move feeders: each is as dear as timing the cycles that pick from them. */
const SLOTS_SHARE = 0.02;
const CYCLES_SHARE = 0.03;
/** Of all changes up to here: a part goes to a cycle near its place; then, changes inside a cycle; the rest is anything. */
const NEAR_SHARE = 0.6;
const INSIDE_SHARE = 0.8;
const NEIGHBOURS = 10;
/** What a pair the wrong way round costs the search, s: more than any detour saves. */
const WRONG_S = 0.5;

export interface Optimised {
	program: HeadProgram;
	/** Pick position of each feeder, in slots. */
	pickSlot: Readonly<Record<string, number>>;
}

/** Looks for faster cycles for a machine: which placements go together, on which spindle, in which order, by simulated annealing over swaps with
 * the full gantry model, then the exact order of places inside each cycle. Tips stay on their spindles; of near parts the lower goes first.
 * Best found, not proven: see `programBoundS`. Never slower than what it starts from.
 * @param placements all of the panel that this machine does
 * @see Kirkpatrick 1983 for annealing; Held and Karp 1962 for the order inside a cycle (both from memory)
 */
export function optimise(
	machine: PlacerSpec,
	placements: readonly Placement[],
	bench: Bench,
	{ tries, seed = 1, start = serpentine(machine, placements, bench), bank, warmS = WARM_S }: Search
): Optimised {
	if (placements.length === 0) return { program: start, pickSlot: bench.pickSlot };
	const head = new Head(machine, start, bench, bank);
	const random = seededRandom(seed);
	let nowS = head.totalS();
	let bestS = nowS;
	let best = head.snapshot();
	for (let t = 0; t < tries; t++) {
		const warmth = warmS * (COLD_S / warmS) ** (t / tries);
		const change = head.propose(random);
		if (change <= 0 || random.uniform() < Math.exp(-change / warmth)) {
			head.keep();
			nowS += change;
			if (nowS < bestS - 1e-9) {
				bestS = nowS;
				best = head.snapshot();
			}
		} else head.undo();
	}
	const found = head.optimised(best);
	const costS = (program: HeadProgram, pickSlot: Bench['pickSlot']) =>
		timeProgram(machine, program, { ...bench, pickSlot }).totalS + WRONG_S * outOfOrder(program).length;
	return costS(found.program, found.pickSlot) <= costS(start, bench.pickSlot) ? found : { program: start, pickSlot: bench.pickSlot };
}

const fixedS = (machine: PlacerSpec, { panel }: Bench) => machine.transferS + panel.fiducials * machine.fiducialS;

/** No program of these placements on this machine is faster, seconds a panel: each place and camera stop is paid, a stroke lifts at most one part of each
 * feeder and no more than the head has spindles, and each cycle goes from the pick line to the nearest place and back.
 */
export function programBoundS(machine: PlacerSpec, placements: readonly Placement[], bench: Bench): number {
	if (placements.length === 0) return fixedS(machine, bench);
	const gang = Math.abs(machine.headPitchMm / machine.slotPitchMm - Math.round(machine.headPitchMm / machine.slotPitchMm)) < 1e-6;
	const perFeeder = new Map<string, number>();
	for (const { feeder } of placements) perFeeder.set(feeder, (perFeeder.get(feeder) ?? 0) + 1);
	const cycles = Math.ceil(placements.length / machine.spindles);
	const strokes = gang ? Math.max(cycles, ...perFeeder.values()) : placements.length;
	const { camera, panel } = placesOf(machine, bench.panel.widthMm);
	const nearestY = panel.y + Math.min(...placements.map((p) => p.at.y));
	const out = machine.onTheFly
		? axisTimeS(nearestY, machine.y)
		: axisTimeS(camera.y, machine.y) + axisTimeS(nearestY - camera.y, machine.y);
	return (
		fixedS(machine, bench) +
		placements.length * machine.placeS +
		strokes * machine.pickS +
		cycles * ((machine.onTheFly ? 0 : machine.cameraS) + out) +
		// The first cycle begins at rest behind the pick line.
		(cycles - 1) * axisTimeS(nearestY, machine.y) +
		axisTimeS(panel.y, machine.y)
	);
}

/** The nearest other points of each, by the larger of both distances; with few points some stand twice. */
function neighbours(x: Float64Array, y: Float64Array): Int32Array {
	const near = new Int32Array(x.length * NEIGHBOURS);
	const nearest = Math.min(NEIGHBOURS, x.length - 1);
	const apart = new Float64Array(NEIGHBOURS);
	for (let i = 0; i < x.length && nearest > 0; i++) {
		const from = i * NEIGHBOURS;
		apart.fill(Infinity);
		for (let k = 0; k < x.length; k++) {
			const d = Math.max(Math.abs(x[i]! - x[k]!), Math.abs(y[i]! - y[k]!));
			if (k === i || d >= apart[nearest - 1]!) continue;
			let at = nearest - 1;
			for (; at > 0 && apart[at - 1]! > d; at--) [apart[at], near[from + at]] = [apart[at - 1]!, near[from + at - 1]!];
			[apart[at], near[from + at]] = [d, k];
		}
		for (let k = nearest; k < NEIGHBOURS; k++) near[from + k] = near[from + (k % nearest)]!;
	}
	return near;
}

/** So many are kept of each cycle. */
const FIGURES = 6;
const LIMIT = 5;

interface Snapshot {
	held: Int32Array;
	feederX: Float64Array;
}

/** What each spindle holds in each cycle, as numbers, with the time of each cycle kept up to date. */
class Head {
	readonly spindles: number;
	readonly cycles: number;
	private readonly tasks: Placement[] = [];
	/** Cycle by cycle, spindle by spindle: the task, or -1. */
	private held: Int32Array;
	private readonly cycleOf: Int32Array;
	private readonly x: Float64Array;
	private readonly y: Float64Array;
	private readonly classOf: Int32Array;
	/** Tasks that each is to be placed before, and after. */
	private readonly before: number[][];
	private readonly after: number[][];
	/** Pick reference of each feeder on spindle 0, and of each free slot after them. */
	private feederX: Float64Array;
	private readonly feederOf: Int32Array;
	private readonly feeders: string[];
	/** Those that may exchange places, by width; free slots count as one slot wide. */
	private readonly movable: number[][];
	/** The nearest other places of each, NEIGHBOURS a task. */
	private readonly nearTo: Int32Array;
	/** Cells of a spindle with the same tip. */
	private readonly alike: Int32Array[];
	/** Of each cycle: the references of its outermost strokes, mm; seconds from the one and from the other to its end; seconds in all; how fast what it
	 * carries may be moved, mm/s². */
	private readonly time: Float64Array;
	private readonly endX: Float64Array;
	private readonly endY: Float64Array;
	private readonly camera: { x: number; y: number };
	private readonly rest: { x: number; y: number };
	private readonly gang: boolean;
	private readonly undoing = { cells: [] as number[], feeders: [] as number[], times: [] as number[] };
	/** Tasks of each feeder; none of a free slot. */
	private readonly tasksOf: readonly (readonly number[])[];
	/** Cycles that a change has named already: of this round where the figure is this round's. */
	private readonly namedIn: Int32Array;
	private round = 0;
	private xS: (mm: number) => number;
	private yS: (mm: number) => number;
	/** How fast each part may be moved, and what the axes go by just now. */
	private readonly holds: Float64Array;
	private readonly timers = new Map<number, [(mm: number) => number, (mm: number) => number]>();
	private carried = Infinity;
	private readonly open: Int32Array;
	private readonly strokeX: Float64Array;

	constructor(
		private readonly machine: PlacerSpec,
		private readonly start: HeadProgram,
		private readonly bench: Bench,
		bank: Bank | undefined
	) {
		this.spindles = start.nozzles.length;
		this.cycles = start.cycles.length;
		const size = this.spindles * this.cycles;
		this.held = new Int32Array(size).fill(-1);
		start.cycles.forEach(({ held }, c) =>
			held.forEach((p, s) => {
				if (p) this.held[c * this.spindles + s] = this.tasks.push(p) - 1;
			})
		);
		this.cycleOf = new Int32Array(this.tasks.length);
		this.held.forEach((task, cell) => task >= 0 && (this.cycleOf[task] = Math.floor(cell / this.spindles)));
		const { camera, panel, rest } = placesOf(machine, bench.panel.widthMm);
		[this.camera, this.rest] = [camera, rest];
		this.x = Float64Array.from(this.tasks, (p) => p.at.x + panel.x);
		this.y = Float64Array.from(this.tasks, (p) => p.at.y + panel.y);
		this.classOf = Int32Array.from(this.tasks, placingClass);
		this.before = this.tasks.map(() => []);
		this.after = this.tasks.map(() => []);
		for (const [low, high] of precedence(this.tasks)) {
			this.before[low]!.push(high);
			this.after[high]!.push(low);
		}
		this.nearTo = neighbours(this.x, this.y);
		this.feeders = [...new Set(this.tasks.map((p) => p.feeder))];
		const number = new Map(this.feeders.map((feeder, f) => [feeder, f]));
		this.feederOf = Int32Array.from(this.tasks, (p) => number.get(p.feeder)!);
		const free = bank?.free ?? [];
		this.feederX = Float64Array.from([...this.feeders.map((f) => bench.pickSlot[f]!), ...free], (slot) => (slot - 1) * machine.slotPitchMm);
		const widths = new Map<number, number[]>();
		const place = (width: number, f: number) => widths.set(width, [...(widths.get(width) ?? []), f]);
		if (bank) this.feeders.forEach((feeder, f) => !bank.pinned.has(feeder) && place(bank.slots[feeder] ?? 1, f));
		free.forEach((_, i) => place(1, this.feeders.length + i));
		this.movable = [...widths.values()].filter((list) => list.length > 1 && list[0]! < this.feeders.length);
		const ratio = machine.headPitchMm / machine.slotPitchMm;
		this.gang = Math.abs(ratio - Math.round(ratio)) < 1e-6;
		this.alike = start.nozzles.map((tip) =>
			Int32Array.from([...this.held.keys()].filter((cell) => start.nozzles[cell % this.spindles] === tip))
		);
		this.time = new Float64Array(FIGURES * this.cycles);
		this.endX = new Float64Array(this.cycles);
		this.endY = new Float64Array(this.cycles);
		this.xS = axisTimer(machine.x);
		this.yS = axisTimer(machine.y);
		this.timers.set(Infinity, [this.xS, this.yS]);
		const fastest = Math.max(machine.x.aMmS2, machine.y.aMmS2);
		// What holds as fast as the machine moves limits nothing.
		this.holds = Float64Array.from(this.tasks, ({ holdMmS2 }) => (holdMmS2 != null && holdMmS2 < fastest ? holdMmS2 : Infinity));
		this.namedIn = new Int32Array(this.cycles);
		this.tasksOf = Array.from(this.feederX, (_, f) => [...this.feederOf.keys()].filter((task) => this.feederOf[task] === f));
		this.open = new Int32Array(this.spindles);
		this.strokeX = new Float64Array(this.spindles);
		for (let c = 0; c < this.cycles; c++) {
			this.measure(c);
			this.join(c);
		}
	}

	/** Seconds of all cycles, and what each pair the wrong way round costs. */
	totalS(): number {
		let total = 0;
		for (let c = 0; c < this.cycles; c++) total += this.time[FIGURES * c + 4]!;
		const wrong = this.tasks.reduce((sum, _, task) => sum + this.wrong(task), 0);
		return total + (wrong / 2) * WRONG_S;
	}
	snapshot(): Snapshot {
		return { held: this.held.slice(), feederX: this.feederX.slice() };
	}

	/** Pairs of a task that are the wrong way round; inside a cycle the low ones go first. */
	private wrong(task: number): number {
		const here = this.cycleOf[task]!;
		let count = 0;
		for (const high of this.before[task]!) if (this.cycleOf[high]! < here) count++;
		for (const low of this.after[task]!) if (this.cycleOf[low]! > here) count++;
		return count;
	}

	private moveS(dx: number, dy: number): number {
		return Math.max(this.xS(dx), this.yS(dy));
	}

	/** From here on the axes move as a cycle lets them that carries a part which slips so easily. */
	private carry(limit: number): void {
		if (limit === this.carried) return;
		this.carried = limit;
		let timers = this.timers.get(limit);
		if (!timers) {
			const slower = carrying(this.machine, [{ holdMmS2: limit }]);
			this.timers.set(limit, (timers = [axisTimer(slower.x), axisTimer(slower.y)]));
		}
		[this.xS, this.yS] = timers;
	}

	/** Times a cycle from its first stroke on; where it ends depends on what it holds only: places are visited nearest first from the camera. */
	private measure(c: number): void {
		const { machine, spindles, held, strokeX, time } = this;
		const from = c * spindles;
		let strokes = 0;
		let open = 0;
		let limit = Infinity;
		for (let s = 0; s < spindles; s++) {
			const task = held[from + s]!;
			if (task < 0) continue;
			this.open[open++] = s;
			if (this.holds[task]! < limit) limit = this.holds[task]!;
			const x = this.feederX[this.feederOf[task]!]! - s * machine.headPitchMm;
			let known = false;
			if (this.gang) for (let k = 0; k < strokes && !known; k++) known = Math.abs(strokeX[k]! - x) < 1e-6;
			if (known) continue;
			let k = strokes++;
			for (; k > 0 && strokeX[k - 1]! > x; k--) strokeX[k] = strokeX[k - 1]!;
			strokeX[k] = x;
		}
		if (open === 0) {
			this.endX[c] = NaN;
			return;
		}
		time[FIGURES * c + LIMIT] = limit;
		this.carry(limit);
		const [low, high] = [strokeX[0]!, strokeX[strokes - 1]!];
		let sum = strokes * machine.pickS + open * machine.placeS;
		for (let k = 1; k < strokes; k++) sum += this.xS(strokeX[k]! - strokeX[k - 1]!);
		let [atX, atY] = [this.camera.x, this.camera.y];
		let firstX = 0;
		let firstY = 0;
		for (let left = open; left > 0; left--) {
			let nearest = 0;
			let best = Infinity;
			for (let k = 0; k < left; k++) {
				const s = this.open[k]!;
				const task = held[from + s]!;
				const d =
					1e6 * this.classOf[task]! + Math.max(Math.abs(this.x[task]! - s * machine.headPitchMm - atX), Math.abs(this.y[task]! - atY));
				if (d < best) [best, nearest] = [d, k];
			}
			const s = this.open[nearest]!;
			const task = held[from + s]!;
			const x = this.x[task]! - s * machine.headPitchMm;
			const y = this.y[task]!;
			if (left === open) [firstX, firstY] = [x, y];
			else sum += this.moveS(x - atX, y - atY);
			[atX, atY] = [x, y];
			this.open[nearest] = this.open[left - 1]!;
		}
		[this.endX[c], this.endY[c]] = [atX, atY];
		[time[FIGURES * c], time[FIGURES * c + 1]] = [low, high];
		[time[FIGURES * c + 2], time[FIGURES * c + 3]] = [sum + this.toFirstS(high, firstX, firstY), sum + this.toFirstS(low, firstX, firstY)];
	}

	/** From the last stroke to the first place, over the camera where the head stops there. */
	private toFirstS(x: number, firstX: number, firstY: number): number {
		const { machine, camera } = this;
		if (machine.onTheFly) return this.moveS(firstX - x, firstY);
		return this.moveS(camera.x - x, camera.y) + this.moveS(firstX - camera.x, firstY - camera.y) + machine.cameraS;
	}

	/** Adds the way from where the cycle before ends, in the faster direction along the bank. */
	private join(c: number): void {
		const { time, endX, endY } = this;
		if (Number.isNaN(endX[c]!)) {
			time[FIGURES * c + 4] = 0;
			return;
		}
		this.carry(time[FIGURES * c + LIMIT]!);
		let before = c - 1;
		while (before >= 0 && Number.isNaN(endX[before]!)) before--;
		const x = before < 0 ? this.rest.x : endX[before]!;
		const y = before < 0 ? this.rest.y : endY[before]!;
		time[FIGURES * c + 4] = Math.min(
			this.moveS(time[FIGURES * c]! - x, y) + time[FIGURES * c + 2]!,
			this.moveS(time[FIGURES * c + 1]! - x, y) + time[FIGURES * c + 3]!
		);
	}

	/** Changes something at random. @returns seconds that it costs */
	propose(random: { uniform: () => number; integer: (n: number) => number }): number {
		const { spindles, held } = this;
		this.keep();
		const luck = random.uniform();
		if (luck < SLOTS_SHARE && this.movable.length) {
			const list = this.movable[random.integer(this.movable.length)]!;
			const [a, b] = [list[random.integer(list.length)]!, list[random.integer(list.length)]!];
			if (a === b || (a >= this.feeders.length && b >= this.feeders.length)) return 0;
			this.undoing.feeders.push(a, b);
			[this.feederX[a], this.feederX[b]] = [this.feederX[b]!, this.feederX[a]!];
			return this.remeasure(this.cyclesThatPick(a, b));
		}
		if (luck < SLOTS_SHARE + CYCLES_SHARE) {
			const [a, b] = [random.integer(this.cycles), random.integer(this.cycles)];
			if (a === b) return 0;
			let change = 0;
			for (let s = 0; s < spindles; s++) change += this.exchange(a * spindles + s, b * spindles + s);
			return change + this.remeasure([a, b]);
		}
		const cell = random.integer(held.length);
		const [cycle, spindle] = [Math.floor(cell / spindles), cell % spindles];
		const task = held[cell]!;
		let other = cell;
		if (luck < NEAR_SHARE && task >= 0 && this.tasks.length > 1) {
			// Into the cycle that goes to a place beside its own.
			const beside = this.cycleOf[this.nearTo[task * NEIGHBOURS + random.integer(NEIGHBOURS)]!]!;
			const at = beside * spindles + random.integer(spindles);
			if (this.start.nozzles[at % spindles] === this.start.nozzles[spindle]) other = at;
		} else if (luck < INSIDE_SHARE) {
			const at = cycle * spindles + random.integer(spindles);
			if (this.start.nozzles[at % spindles] === this.start.nozzles[spindle]) other = at;
		} else {
			const cells = this.alike[spindle]!;
			other = cells[random.integer(cells.length)]!;
		}
		if (other === cell || (task < 0 && held[other]! < 0)) return 0;
		const change = this.exchange(cell, other);
		const there = Math.floor(other / spindles);
		return change + this.remeasure(there === cycle ? [cycle] : [cycle, there]);
	}

	/** @returns what the pairs cost that are the wrong way round by it */
	private exchange(a: number, b: number): number {
		this.undoing.cells.push(a, b);
		const [p, q] = [this.held[a]!, this.held[b]!];
		let change = 0;
		if (p >= 0) change -= this.wrong(p);
		if (q >= 0) change -= this.wrong(q);
		this.swap(a, b);
		if (p >= 0) change += this.wrong(p);
		if (q >= 0) change += this.wrong(q);
		// A pair of the two themselves was counted twice, before and after.
		if (p >= 0 && q >= 0 && (this.before[p]!.includes(q) || this.before[q]!.includes(p))) change /= 2;
		return change * WRONG_S;
	}
	private swap(a: number, b: number): void {
		const [p, q] = [this.held[a]!, this.held[b]!];
		[this.held[a], this.held[b]] = [q, p];
		if (p >= 0) this.cycleOf[p] = Math.floor(b / this.spindles);
		if (q >= 0) this.cycleOf[q] = Math.floor(a / this.spindles);
	}
	private cyclesThatPick(a: number, b: number): number[] {
		this.round++;
		const cycles: number[] = [];
		for (const f of [a, b])
			for (const task of this.tasksOf[f]!) {
				const c = this.cycleOf[task]!;
				if (this.namedIn[c] !== this.round) cycles.push(c);
				this.namedIn[c] = this.round;
			}
		return cycles;
	}

	/** Those cycles, and the way into each that follows one of them. */
	private remeasure(cycles: readonly number[]): number {
		const { time, undoing, namedIn } = this;
		const round = ++this.round;
		const touched = [...cycles];
		for (const c of cycles) namedIn[c] = round;
		for (const c of cycles) {
			// What follows an empty cycle begins where the one before it ends.
			let next = c + 1;
			while (next < this.cycles && Number.isNaN(this.endX[next]!)) next++;
			if (next < this.cycles && namedIn[next] !== round) touched.push(next);
			if (next < this.cycles) namedIn[next] = round;
		}
		let change = 0;
		for (const c of touched) {
			undoing.times.push(
				c,
				time[FIGURES * c]!,
				time[FIGURES * c + 1]!,
				time[FIGURES * c + 2]!,
				time[FIGURES * c + 3]!,
				time[FIGURES * c + 4]!,
				time[FIGURES * c + LIMIT]!,
				this.endX[c]!,
				this.endY[c]!
			);
			change -= time[FIGURES * c + 4]!;
		}
		for (const c of cycles) this.measure(c);
		for (const c of touched) {
			this.join(c);
			change += time[FIGURES * c + 4]!;
		}
		return change;
	}
	keep(): void {
		this.undoing.cells.length = this.undoing.feeders.length = this.undoing.times.length = 0;
	}
	undo(): void {
		const { cells, feeders, times } = this.undoing;
		for (let i = cells.length - 2; i >= 0; i -= 2) this.swap(cells[i]!, cells[i + 1]!);
		for (let i = 0; i < feeders.length; i += 2) {
			const [a, b] = [feeders[i]!, feeders[i + 1]!];
			[this.feederX[a], this.feederX[b]] = [this.feederX[b]!, this.feederX[a]!];
		}
		for (let i = 0; i < times.length; i += FIGURES + 3) {
			const c = times[i]!;
			for (let k = 0; k < FIGURES; k++) this.time[FIGURES * c + k] = times[i + 1 + k]!;
			[this.endX[c], this.endY[c]] = [times[i + FIGURES + 1]!, times[i + FIGURES + 2]!];
		}
	}

	/** As it stood in a snapshot, without empty cycles, the places of each cycle in their best order. */
	optimised(snapshot: Snapshot): Optimised {
		[this.held, this.feederX] = [snapshot.held, snapshot.feederX];
		const rows = Array.from({ length: this.cycles }, (_, c) =>
			Array.from(this.held.subarray(c * this.spindles, (c + 1) * this.spindles))
		).filter((row) => row.some((task) => task >= 0));
		const cycles = rows.map((row, c) => {
			// The next strokes begin at one end of theirs: its middle stands for both.
			const refs = rows[c + 1]?.flatMap((task, s) =>
				task < 0 ? [] : [this.feederX[this.feederOf[task]!]! - s * this.machine.headPitchMm]
			);
			const to = refs ? { x: (Math.min(...refs) + Math.max(...refs)) / 2, y: 0 } : null;
			return { held: row.map((task) => (task < 0 ? null : this.tasks[task]!)), order: this.bestOrder(row, to) };
		});
		const slotOf = (f: number) => this.feederX[f]! / this.machine.slotPitchMm + 1;
		const pickSlot = Object.fromEntries(this.feeders.map((feeder, f) => [feeder, slotOf(f)]));
		return { program: { nozzles: this.start.nozzles, cycles }, pickSlot: { ...this.bench.pickSlot, ...pickSlot } };
	}

	/** The order of places from the camera to the next pick, low parts first: exact to 12 of a class. */
	private bestOrder(row: readonly number[], to: { x: number; y: number } | null): number[] {
		const order: number[] = [];
		this.carry(row.reduce((least, task) => (task < 0 ? least : Math.min(least, this.holds[task]!)), Infinity));
		let from = this.camera;
		const classes = [...new Set(row.flatMap((task) => (task < 0 ? [] : [this.classOf[task]!])))].sort((a, b) => a - b);
		for (const k of classes) {
			const spindles = row.flatMap((task, s) => (task >= 0 && this.classOf[task] === k ? [s] : []));
			const at = spindles.map((s) => ({ x: this.x[row[s]!]! - s * this.machine.headPitchMm, y: this.y[row[s]!]! }));
			const begin = from;
			const first = (i: number) => this.moveS(at[i]!.x - begin.x, at[i]!.y - begin.y);
			const last = (i: number) => (to && k === classes.at(-1) ? this.moveS(to.x - at[i]!.x, to.y - at[i]!.y) : 0);
			const between = at.map((a) => at.map((b) => this.moveS(b.x - a.x, b.y - a.y)));
			const best = shortestPath(at.length, first, between, last);
			order.push(...best.map((i) => spindles[i]!));
			from = at[best.at(-1)!]!;
		}
		return order;
	}
}
