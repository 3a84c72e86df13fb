import { seededRandom } from '../numerics/index.ts';

/** A part type to be dealt: all its placements go to one machine. */
export interface PartLoad {
	id: string;
	/** Placements a panel. */
	count: number;
	/** Slots its feeder takes, by machine. */
	slots: readonly number[];
	/** Seconds a placement, by machine; null where that machine cannot place it. */
	secondsEach: readonly (number | null)[];
}

export interface MachineLoad {
	slots: number;
	/** Seconds a panel that no split removes: transfer, fiducials. */
	fixedS: number;
}

export interface Deal {
	/** Machine of each part type, by id. */
	machineOf: Record<string, number>;
	/** Seconds a panel, by machine. */
	loadS: number[];
	/** The slowest machine. */
	worstS: number;
	/** No deal can be faster than this: whole work spread evenly, or the largest single type. */
	boundS: number;
	/** The search ended: no deal of whole types is faster. */
	proven: boolean;
	/** Part types that could not be dealt, with the reason. */
	left: { id: string; reason: string }[];
}

const STARTS = 24;

/** Deals part types to machines in series so that the slowest is as fast as can be found.
 * Longest first to the least loaded capable machine with slots, then moves and swaps while the sorted loads fall, from several
 * starts; a bounded exact search improves on it, and proves it where it ends.
 * @param parts types with their needs; @param machines in line order; @param seed the same seed gives the same deal
 * @see Graham 1969 for the start; descent and search are ours
 */
export function dealParts(parts: readonly PartLoad[], machines: readonly MachineLoad[], seed = 1): Deal {
	const random = seededRandom(seed);
	const left: Deal['left'] = [];
	const usable = parts.filter((part) => {
		if (part.secondsEach.some((s) => s !== null)) return true;
		left.push({ id: part.id, reason: 'no machine of this line can place it' });
		return false;
	});
	let best: { of: number[]; loads: number[]; missing: number[] } | null = null;
	for (let start = 0; start < STARTS; start++) {
		const order = usable.map((_, i) => i).sort((a, b) => weight(usable[b]!) * jitter() - weight(usable[a]!) * jitter() || a - b);
		function jitter() {
			return start === 0 ? 1 : 0.7 + 0.6 * random.uniform();
		}
		const found = descend(usable, machines, construct(usable, machines, order));
		if (!best || better(found, best)) best = found;
	}
	const exact = best && best.missing.length === 0 ? branchAndBound(usable, machines, best) : null;
	if (exact) best = exact.dealt;
	const machineOf: Record<string, number> = {};
	usable.forEach((part, i) => {
		const m = best!.of[i]!;
		if (m >= 0) machineOf[part.id] = m;
		else {
			const short = Math.min(...part.slots);
			left.push({ id: part.id, reason: `slots run short: it needs ${short} more` });
		}
	});
	const loadS = best?.loads ?? machines.map((m) => m.fixedS);
	return { machineOf, loadS, worstS: Math.max(...loadS), boundS: lowerBound(usable, machines), proven: exact?.proven ?? false, left };
}

function weight(part: PartLoad): number {
	const times = part.secondsEach.filter((s): s is number => s !== null);
	// A type that only one machine can take has no choice: it goes first.
	return part.count * Math.min(...times) * (times.length === 1 ? 1e3 : 1);
}

function construct(parts: readonly PartLoad[], machines: readonly MachineLoad[], order: readonly number[]): number[] {
	const of = parts.map(() => -1);
	const loads = machines.map((m) => m.fixedS);
	const free = machines.map((m) => m.slots);
	for (const i of order) {
		const part = parts[i]!;
		let best = -1;
		let bestLoad = Infinity;
		machines.forEach((_, m) => {
			const each = part.secondsEach[m];
			if (each === null || each === undefined || part.slots[m]! > free[m]!) return;
			const load = loads[m]! + part.count * each;
			if (load < bestLoad) [best, bestLoad] = [m, load];
		});
		if (best < 0) continue;
		of[i] = best;
		loads[best] = bestLoad;
		free[best] = free[best]! - part.slots[best]!;
	}
	return of;
}

interface Dealt {
	of: number[];
	loads: number[];
	missing: number[];
}

function evaluate(parts: readonly PartLoad[], machines: readonly MachineLoad[], of: number[]): Dealt | null {
	const loads = machines.map((m) => m.fixedS);
	const used = machines.map(() => 0);
	const missing: number[] = [];
	for (const [i, part] of parts.entries()) {
		const m = of[i]!;
		if (m < 0) {
			missing.push(i);
			continue;
		}
		const each = part.secondsEach[m];
		if (each === null || each === undefined) return null;
		loads[m] = loads[m]! + part.count * each;
		used[m] = used[m]! + part.slots[m]!;
		if (used[m]! > machines[m]!.slots) return null;
	}
	return { of, loads, missing };
}

function better(a: Dealt, b: Dealt): boolean {
	if (a.missing.length !== b.missing.length) return a.missing.length < b.missing.length;
	return lower(sorted(a.loads), sorted(b.loads));
}

const sorted = (loads: readonly number[]): number[] => [...loads].sort((p, q) => q - p);

/** Whether the first of two sorted lists falls below the other where they first differ. */
function lower(x: readonly number[], y: readonly number[]): boolean {
	for (let i = 0; i < x.length; i++) if (Math.abs(x[i]! - y[i]!) > 1e-9) return x[i]! < y[i]!;
	return false;
}

/** Moves and swaps while the sorted loads fall, or more is dealt; a change touches two machines, and only they are counted anew. */
function descend(parts: readonly PartLoad[], machines: readonly MachineLoad[], start: number[]): Dealt {
	const begun = evaluate(parts, machines, start)!;
	const of = [...start];
	const loads = [...begun.loads];
	const free = machines.map((machine, m) => machine.slots - parts.reduce((sum, part, i) => sum + (of[i] === m ? part.slots[m]! : 0), 0));
	let missing = begun.missing.length;
	let best = sorted(loads);
	const [trial, room] = [loads.slice(), free.slice()];
	/** Takes a part from where it is; puts one onto a machine, where it can be. */
	const take = (i: number) => {
		const m = of[i]!;
		if (m < 0) return;
		trial[m]! -= parts[i]!.count * parts[i]!.secondsEach[m]!;
		room[m]! += parts[i]!.slots[m]!;
	};
	const put = (i: number, m: number): boolean => {
		if (m < 0) return true;
		const each = parts[i]!.secondsEach[m] ?? null;
		if (each === null) return false;
		trial[m]! += parts[i]!.count * each;
		room[m]! -= parts[i]!.slots[m]!;
		return true;
	};
	/** Keeps the change where it is better. */
	const attempt = (i: number, to: number, j: number): boolean => {
		for (let m = 0; m < machines.length; m++) [trial[m], room[m]] = [loads[m]!, free[m]!];
		const from = of[i]!;
		take(i);
		if (j >= 0) take(j);
		if (!put(i, to) || (j >= 0 && !put(j, from))) return false;
		if ((to >= 0 && room[to]! < 0) || (j >= 0 && from >= 0 && room[from]! < 0)) return false;
		const now = sorted(trial);
		const left = missing - (j < 0 && from < 0 ? 1 : 0);
		if (left >= missing && !lower(now, best)) return false;
		of[i] = to;
		if (j >= 0) of[j] = from;
		for (let m = 0; m < machines.length; m++) [loads[m], free[m]] = [trial[m]!, room[m]!];
		[best, missing] = [now, left];
		return true;
	};
	for (let improved = true; improved;) {
		improved = false;
		for (let i = 0; i < parts.length; i++) {
			for (let m = 0; m < machines.length; m++) if (of[i] !== m && attempt(i, m, -1)) improved = true;
			for (let j = i + 1; j < parts.length; j++) if (of[i] !== of[j] && attempt(i, of[j]!, j)) improved = true;
		}
	}
	// Adding and taking away leaves noise in the last digits: the loads are counted afresh.
	return evaluate(parts, machines, of)!;
}

/** Nodes that the exact search may open: a fraction of a second, and the same on every machine. */
const MOST_NODES = 200_000;

/** Depth-first search over all deals of whole types, the heaviest first, cut where the loads already made or the work left over cannot
 * be better than the best deal known.
 */
function branchAndBound(parts: readonly PartLoad[], machines: readonly MachineLoad[], start: Dealt): { dealt: Dealt; proven: boolean } {
	const order = parts.map((_, i) => i).sort((a, b) => weight(parts[b]!) - weight(parts[a]!) || a - b);
	const able = parts.map((part) =>
		machines.flatMap((_, m) => ((part.secondsEach[m] ?? null) === null ? [] : [{ m, addedS: part.count * part.secondsEach[m]! }]))
	);
	const least = order.map((i) => parts[i]!.count * Math.min(...parts[i]!.secondsEach.filter((s): s is number => s !== null)));
	const workLeft = least.map((_, k) => least.slice(k).reduce((sum, s) => sum + s, 0));
	const of = [...start.of];
	const loads = machines.map((m) => m.fixedS);
	const free = machines.map((m) => m.slots);
	let best = start;
	let worst = Math.max(...start.loads);
	let nodes = 0;
	const visit = (k: number): boolean => {
		if (++nodes > MOST_NODES) return false;
		if (k === order.length) {
			worst = Math.max(...loads);
			best = { of: [...of], loads: [...loads], missing: [] };
			return true;
		}
		const spread = (loads.reduce((sum, l) => sum + l, 0) + workLeft[k]!) / machines.length;
		if (spread >= worst - 1e-9) return true;
		const i = order[k]!;
		const part = parts[i]!;
		const choices = able[i]!.filter(({ m, addedS }) => part.slots[m]! <= free[m]! && loads[m]! + addedS < worst - 1e-9);
		if (choices.length > 1) choices.sort((a, b) => loads[a.m]! + a.addedS - (loads[b.m]! + b.addedS));
		for (const { m, addedS } of choices) {
			// A better deal may have been found since.
			if (loads[m]! + addedS >= worst - 1e-9) continue;
			loads[m]! += addedS;
			free[m]! -= part.slots[m]!;
			of[i] = m;
			const ended = visit(k + 1);
			loads[m]! -= addedS;
			free[m]! += part.slots[m]!;
			if (!ended) return false;
		}
		return true;
	};
	const proven = visit(0);
	// Adding and taking away leaves noise in the last digits: the loads are counted afresh.
	return { dealt: evaluate(parts, machines, best.of) ?? best, proven };
}

function lowerBound(parts: readonly PartLoad[], machines: readonly MachineLoad[]): number {
	const cheapest = (part: PartLoad) => Math.min(...part.secondsEach.filter((s): s is number => s !== null));
	const spread =
		(machines.reduce((sum, m) => sum + m.fixedS, 0) + parts.reduce((sum, part) => sum + part.count * cheapest(part), 0)) / machines.length;
	const single = parts.map((part) =>
		Math.min(...part.secondsEach.map((s, m) => (s === null ? Infinity : machines[m]!.fixedS + part.count * s)))
	);
	return Math.max(spread, ...single, ...machines.map((m) => m.fixedS));
}
