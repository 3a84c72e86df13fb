import { InputError, type Verdict } from '../judgement/index.ts';
import { fitLogistic, logisticProbability, type LogisticFit } from '../numerics/index.ts';
import type { DepositLimits } from './deposit.ts';

/** One deposit with what became of its joint. */
export interface DepositOutcome {
	volumePct: number;
	/** Distance from the pad's middle as a share of the opening's width. */
	offsetShare: number;
	/** Optical or in-circuit inspection found a defect there. */
	defect: boolean;
	/** How many deposits this one stands for where good ones were sampled. */
	weight?: number;
}

export interface ConsequenceLimit {
	side: 'low' | 'high' | 'offset';
	/** Volume in %, or the share of the opening's width; null where the cost is not reached within what was seen. */
	value: number | null;
	/** 95 % interval. */
	low: number;
	high: number;
	/** The limit that holds now, and what is proposed: never wider on few defects. */
	now: number;
	proposed: number;
}

export interface Consequences {
	defects: number;
	deposits: number;
	/** Of the logit: level, each 10 % below 100, each 10 % above 100, each 0.1 of the width off the middle. */
	coefficients: number[];
	/** P(defect) along volume at no offset, % and fraction. */
	curve: { volumePct: number; probability: number }[];
	seen: { lowPct: number; highPct: number; offsetShare: number };
	mayWiden: boolean;
	limits: ConsequenceLimit[];
	verdict: Verdict;
}

/** Fewer defects than this say too little to let more through (our rule). */
export const DEFECTS_TO_WIDEN = 30;
const LEAST_DEFECTS = 5;
const Z95 = 1.96;

const row = (volumePct: number, offsetShare: number): number[] => [
	1,
	Math.max(0, 100 - volumePct) / 10,
	Math.max(0, volumePct - 100) / 10,
	offsetShare / 0.1
];

/** The deposit that a call is put to: the pin's own where the call names one, else the part's deposit that is farthest from 100 %.
 * @param pads of the part; @param volumePct of a pad by its index
 */
export function jointOfCall(
	pads: readonly { index: number; pin: string | null }[],
	pin: string | null,
	volumePct: (index: number) => number
): number | null {
	const named = pin === null ? undefined : pads.find((p) => p.pin === pin);
	if (named) return named.index;
	const far = (index: number) => Math.abs(Math.log(Math.max(1, volumePct(index)) / 100));
	return pads.reduce<number | null>((worst, { index }) => (worst === null || far(index) > far(worst) ? index : worst), null);
}

/** Good deposits thinned to at most so many, each standing for those that were left out; every defect stays. */
export function thinned(outcomes: readonly DepositOutcome[], mostGood: number): DepositOutcome[] {
	const good = outcomes.filter((o) => !o.defect);
	const every = Math.max(1, Math.ceil(good.length / mostGood));
	return [...outcomes.filter((o) => o.defect), ...good.filter((_, i) => i % every === 0).map((o) => ({ ...o, weight: every }))];
}

/** Limits from what deposits led to: a logistic curve of P(defect | volume, offset), and the volume and offset at which passing a deposit costs as much as
 * stopping it. A deposit is worth stopping where P(defect)·cost of a defect exceeds the cost of a stop.
 * Only what was let through has an outcome, so nothing is said outside the range that was seen; and no limit is widened on fewer than 30 defects.
 * @param stopCost cost of stopping one deposit that was good; @param defectCost cost of one defect that went on
 * @throws {InputError} naming the field
 */
export function consequenceLimits(
	outcomes: readonly DepositOutcome[],
	now: DepositLimits,
	stopCost: number,
	defectCost: number
): Consequences {
	if (!(stopCost > 0)) throw new InputError('out-of-range', 'stopCost', 'more than 0', stopCost);
	if (!(defectCost > stopCost)) throw new InputError('out-of-range', 'defectCost', 'more than a stop costs', defectCost);
	outcomes.forEach((o, i) => {
		if (!(o.volumePct >= 0 && o.volumePct <= 400))
			throw new InputError('out-of-range', `outcomes[${i}].volumePct`, '0 to 400 %', o.volumePct);
		if (!(o.offsetShare >= 0)) throw new InputError('out-of-range', `outcomes[${i}].offsetShare`, '0 or more', o.offsetShare);
	});
	const defects = outcomes.filter((o) => o.defect).length;
	const deposits = outcomes.reduce((sum, o) => sum + (o.weight ?? 1), 0);
	const [lowNow, highNow] = now.volumePct.fail;
	if (defects < LEAST_DEFECTS || defects === outcomes.length)
		return {
			defects,
			deposits,
			coefficients: [],
			curve: [],
			seen: seenOf(outcomes),
			mayWiden: false,
			limits: [],
			verdict: {
				level: 'noData',
				statement: `${defects} defects on ${Math.round(deposits)} deposits: at least ${LEAST_DEFECTS} are needed for a curve, ${DEFECTS_TO_WIDEN} to widen anything.`,
				because: [],
				doNext: ['Keep the limits as they are']
			}
		};
	const fit = risingFit(outcomes);
	const seen = seenOf(outcomes);
	const mayWiden = defects >= DEFECTS_TO_WIDEN;
	const worth = Math.log(stopCost / defectCost / (1 - stopCost / defectCost));
	/** Where one column reaches the worth, with its error by the delta method. */
	const reach = (column: number) => {
		const [level, slope] = [fit.coefficients[0]!, fit.coefficients[column]!];
		if (slope <= 0) return { x: Infinity, error: 0, rises: false };
		const x = (worth - level) / slope;
		const [v00, v11, v01] = [fit.covariance[0]![0]!, fit.covariance[column]![column]!, fit.covariance[0]![column]!];
		return { x, error: Math.sqrt(Math.max(0, v00 + x * x * v11 + 2 * x * v01)) / Math.abs(slope), rises: slope > 0 };
	};
	const limit = (
		side: ConsequenceLimit['side'],
		column: number,
		valueOf: (x: number) => number,
		seenTo: number,
		nowAt: number
	): ConsequenceLimit => {
		const { x, error, rises } = reach(column);
		const ends = [valueOf(Math.max(0, x - Z95 * error)), valueOf(Math.max(0, x + Z95 * error))];
		const [low, high] = [Math.min(...ends), Math.max(...ends)];
		const value = valueOf(Math.max(0, x));
		const wider = (v: number) => (side === 'low' ? v < nowAt : v > nowAt);
		const inside = side === 'low' ? value >= seenTo : value <= seenTo;
		if (!rises || !inside) return { side, value: null, low: nowAt, high: nowAt, now: nowAt, proposed: nowAt };
		// The careful end of the interval is what is proposed where it widens.
		const careful = side === 'low' ? high : low;
		const tighter = (v: number) => (side === 'low' ? v > nowAt : v < nowAt);
		// Tightened only where the whole interval asks for it: chance alone moves no limit.
		const proposed = wider(value)
			? mayWiden && wider(careful)
				? careful
				: nowAt
			: tighter(value) && tighter(side === 'low' ? low : high)
				? value
				: nowAt;
		return { side, value, low, high, now: nowAt, proposed };
	};
	const limits = [
		limit('low', 1, (x) => 100 - 10 * x, seen.lowPct, lowNow),
		limit('high', 2, (x) => 100 + 10 * x, seen.highPct, highNow),
		limit('offset', 3, (x) => 0.1 * x, seen.offsetShare, now.offsetShare)
	];
	return {
		defects,
		deposits,
		coefficients: fit.coefficients,
		curve: Array.from({ length: 41 }, (_, i) => {
			const volumePct = seen.lowPct + ((seen.highPct - seen.lowPct) * i) / 40;
			return { volumePct, probability: logisticProbability(fit.coefficients, row(volumePct, 0)) };
		}),
		seen,
		mayWiden,
		limits,
		verdict: judge(limits, defects, deposits, mayWiden)
	};
}

/** The logistic fit in which no departure from the nominal makes a defect less likely: a column whose slope comes out below zero is left out.
 * @returns coefficients and covariance of all four columns, zero for those left out
 */
function risingFit(outcomes: readonly DepositOutcome[]): Pick<LogisticFit, 'coefficients' | 'covariance'> {
	const rows = outcomes.map((o) => row(o.volumePct, o.offsetShare));
	const y = outcomes.map((o) => Number(o.defect));
	const weights = outcomes.map((o) => o.weight ?? 1);
	let columns = [0, 1, 2, 3];
	for (;;) {
		const kept = columns;
		const fit = fitLogistic(
			rows.map((x) => kept.map((j) => x[j]!)),
			y,
			weights
		);
		columns = kept.filter((j, k) => j === 0 || fit.coefficients[k]! > 0);
		if (columns.length < kept.length) continue;
		const at = (j: number) => kept.indexOf(j);
		const all = [0, 1, 2, 3];
		return {
			coefficients: all.map((j) => (at(j) < 0 ? 0 : fit.coefficients[at(j)]!)),
			covariance: all.map((i) => all.map((j) => (at(i) < 0 || at(j) < 0 ? 0 : fit.covariance[at(i)]![at(j)]!)))
		};
	}
}

function seenOf(outcomes: readonly DepositOutcome[]): Consequences['seen'] {
	const seen = { lowPct: 100, highPct: 100, offsetShare: 0 };
	for (const o of outcomes) {
		seen.lowPct = Math.min(seen.lowPct, o.volumePct);
		seen.highPct = Math.max(seen.highPct, o.volumePct);
		seen.offsetShare = Math.max(seen.offsetShare, o.offsetShare);
	}
	return seen;
}

const NAMES = { low: 'lower volume limit', high: 'upper volume limit', offset: 'offset limit' } as const;

function judge(limits: readonly ConsequenceLimit[], defects: number, deposits: number, mayWiden: boolean): Verdict {
	const words = (l: ConsequenceLimit, v: number) => (l.side === 'offset' ? `${v.toFixed(2)} of the width` : `${v.toFixed(0)} %`);
	const because = limits.map((l) => ({
		quantity: `Break-even of the ${NAMES[l.side]}`,
		value: l.value === null ? 'not reached in what was seen' : `${words(l, l.value)} (${words(l, l.low)} to ${words(l, l.high)})`,
		unit: '',
		limit: `now ${words(l, l.now)}`,
		source: 'logistic curve of this plant’s own outcomes'
	}));
	const moves = limits.filter((l) => l.proposed !== l.now);
	const held = limits.filter((l) => l.value !== null && l.proposed === l.now && (l.side === 'low' ? l.value < l.now : l.value > l.now));
	if (moves.length === 0)
		return {
			level: 'good',
			statement:
				held.length && !mayWiden
					? `No limit is widened on ${defects} defects: ${DEFECTS_TO_WIDEN} are needed.`
					: `The limits stand: ${defects} defects on ${Math.round(deposits)} deposits do not ask for others.`,
			because,
			doNext: []
		};
	return {
		level: 'watch',
		statement: `${moves.map((l) => `The ${NAMES[l.side]} pays at ${words(l, l.proposed)}, now ${words(l, l.now)}`).join('; ')}.`,
		because,
		doNext: ['Enter them on the page of limits: tightening takes effect at once, widening asks for a second person']
	};
}
