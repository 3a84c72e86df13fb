import { InputError, requireRange } from '../judgement/index.ts';

/** A splice that is due: where, from when it can be made, until when, and how long it takes. */
export interface Splice {
	name: string;
	xM: number;
	yM: number;
	/** The tail is short enough and the reel is at hand, s from now. */
	releaseS: number;
	/** The reel runs out, less the margin, s from now. */
	deadlineS: number;
	serviceS: number;
}

export interface SpliceStop {
	name: string;
	/** Leave for it, s from now. */
	leaveS: number;
	startS: number;
	finishS: number;
	/** Before its deadline; negative: so late. */
	spareS: number;
}

export interface SpliceRoute {
	stops: SpliceStop[];
	/** How long the line stands: machines in series wait for one another, so the latest splice counts, not the sum. */
	stopS: number;
	/** No other order makes it shorter: every order was compared. */
	proven: boolean;
}

/** So many splices are compared in every order. */
const MOST_EXACT = 12;

/** The round of one technician over the splices that are due, with the shortest stop of the line; then with the earliest end.
 * @param from where the technician stands, m
 * @param walkMPerS pace along the line, rectilinear; about 1 m/s (common practice)
 * @throws {InputError} `out-of-range` for figures that cannot be
 */
export function spliceRoute(splices: readonly Splice[], from: { xM: number; yM: number } = { xM: 0, yM: 0 }, walkMPerS = 1): SpliceRoute {
	requireRange('walkMPerS', walkMPerS, 0.05, 10, 'm/s');
	splices.forEach((s, i) => {
		for (const key of ['xM', 'yM', 'deadlineS'] as const)
			if (!Number.isFinite(s[key])) throw new InputError('not-finite', `splices.${i}.${key}`, 'a finite number', s[key]);
		requireRange(`splices.${i}.releaseS`, s.releaseS, 0, 1e6, 's');
		requireRange(`splices.${i}.serviceS`, s.serviceS, 0, 1e5, 's');
	});
	const walk = (a: { xM: number; yM: number }, b: { xM: number; yM: number }) =>
		(Math.abs(a.xM - b.xM) + Math.abs(a.yM - b.yM)) / walkMPerS;
	const times = { first: splices.map((s) => walk(from, s)), between: splices.map((a) => splices.map((b) => walk(a, b))) };
	const proven = splices.length <= MOST_EXACT;
	const order = proven ? bestOrder(splices, times) : goodOrder(splices, times);
	const stops = walked(splices, times, order);
	return { stops, stopS: Math.max(0, ...stops.map(({ spareS }) => -spareS)), proven };
}

interface Times {
	first: number[];
	between: number[][];
}

/** What an order comes to. */
function walked(splices: readonly Splice[], { first, between }: Times, order: readonly number[]): SpliceStop[] {
	let atS = 0;
	return order.map((j, k) => {
		const { name, releaseS, deadlineS, serviceS } = splices[j]!;
		const walkS = k === 0 ? first[j]! : between[order[k - 1]!]![j]!;
		const startS = Math.max(atS + walkS, releaseS);
		const finishS = startS + serviceS;
		const stop = { name, leaveS: startS - walkS, startS, finishS, spareS: deadlineS - finishS };
		atS = finishS;
		return stop;
	});
}

interface Way {
	finishS: number;
	/** The latest so far; below 0: all in time. */
	latestS: number;
	last: number;
	before: Way | null;
}

/** Every set of splices with every last one: of two ways to it, one that ends later and is later is of no use, nor is one that is later than what is known. */
function bestOrder(splices: readonly Splice[], times: Times): number[] {
	const { first, between } = times;
	const n = splices.length;
	if (n === 0) return [];
	const knownS = Math.max(...walked(splices, times, goodOrder(splices, times)).map(({ spareS }) => -spareS));
	const after = (before: Way | null, j: number): Way => {
		const { releaseS, deadlineS, serviceS } = splices[j]!;
		const arriveS = before ? before.finishS + between[before.last]![j]! : first[j]!;
		const finishS = Math.max(arriveS, releaseS) + serviceS;
		return { finishS, latestS: Math.max(before?.latestS ?? -Infinity, finishS - deadlineS), last: j, before };
	};
	const ways: Way[][] = Array.from({ length: n * (1 << n) }, () => []);
	const keep = (set: number, way: Way) => {
		if (way.latestS > knownS + 1e-9) return;
		const list = ways[set * n + way.last]!;
		if (list.some((w) => w.finishS <= way.finishS && w.latestS <= way.latestS)) return;
		ways[set * n + way.last] = [...list.filter((w) => w.finishS < way.finishS || w.latestS < way.latestS), way];
	};
	const left = (set: number) => splices.flatMap((_, j) => (set & (1 << j) ? [] : [j]));
	for (let j = 0; j < n; j++) keep(1 << j, after(null, j));
	for (let set = 1; set < 1 << n; set++)
		for (let last = 0; last < n; last++)
			for (const way of ways[set * n + last]!) {
				const next = left(set).map((j) => after(way, j));
				// Walking on from here reaches none sooner by going elsewhere first.
				if (next.some(({ latestS }) => latestS > knownS + 1e-9)) continue;
				for (const one of next) keep(set | (1 << one.last), one);
			}
	const all = (1 << n) - 1;
	const ends = Array.from({ length: n }, (_, last) => ways[all * n + last]!).flat();
	let way: Way | null = ends.reduce((a, b) => (b.latestS < a.latestS || (b.latestS === a.latestS && b.finishS < a.finishS) ? b : a));
	const order: number[] = [];
	for (; way; way = way.before) order.unshift(way.last);
	return order;
}

/** By their deadlines, then one splice after another put where it serves better, until none does. */
function goodOrder(splices: readonly Splice[], times: Times): number[] {
	const worth = (order: readonly number[]) => {
		const stops = walked(splices, times, order);
		return { latestS: Math.max(...stops.map(({ spareS }) => -spareS)), finishS: stops.at(-1)!.finishS };
	};
	const better = (a: ReturnType<typeof worth>, b: ReturnType<typeof worth>) =>
		a.latestS < b.latestS - 1e-9 || (a.latestS <= b.latestS + 1e-9 && a.finishS < b.finishS - 1e-9);
	let order = splices.map((_, i) => i).sort((a, b) => splices[a]!.deadlineS - splices[b]!.deadlineS);
	let best = worth(order);
	for (let improved = true; improved;) {
		improved = false;
		for (let i = 0; i < order.length; i++)
			for (let k = 0; k < order.length; k++) {
				if (i === k) continue;
				const moved = order.toSpliced(i, 1).toSpliced(k, 0, order[i]!);
				const swapped = order.with(i, order[k]!).with(k, order[i]!);
				for (const other of [moved, swapped]) {
					const now = worth(other);
					if (better(now, best)) [order, best, improved] = [other, now, true];
				}
			}
	}
	return order;
}
