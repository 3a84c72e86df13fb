import { InputError, requireRange } from '../judgement/index.ts';
import { madSpread } from '../numerics/index.ts';

/** Smaller offsets are left alone, µm (common practice). */
export const LEAST_UM = 15;
/** So many standard errors an offset must have. */
export const ERRORS = 3;
/** Standard error of a median against that of a mean of normal values: √(π/2). */
const MEDIAN_ERROR = 1.2533;
/** A first correction from fewer is taken in part (common practice). */
const WHOLE_FROM = 25;
const IN_PART = 0.7;
/** Never corrected from fewer. */
export const LEAST_PANELS = 3;

export interface OffsetTrim {
	n: number;
	medianUm: number;
	meanUm: number;
	/** From the median absolute deviation: one fallen part does not move it. */
	sigmaUm: number;
	standardErrorUm: number;
	/** 95 %, from the order of the values; null: too few for one. */
	interval: { lowUm: number; highUm: number } | null;
	/** What is added to the program; 0: nothing. */
	correctionUm: number;
	/** Why it is, or is not. */
	why: string;
}

/** Ranks of the values between which the median of what they are drawn from lies, by the sign test; counted from 1. null: too few values for so sure an interval.
 * @example medianRanks(25) // => { low: 8, high: 18 }
 */
export function medianRanks(n: number, confidence = 0.95): { low: number; high: number } | null {
	if (!(Number.isInteger(n) && n >= 1 && n <= 1e6)) throw new InputError('out-of-range', 'n', 'a whole number from 1 to 1000000', n);
	requireRange('confidence', confidence, 0.5, 0.9999);
	const tail = (1 - confidence) / 2;
	let log = n * Math.log(0.5);
	let sum = Math.exp(log);
	let k = 0;
	while (sum <= tail) {
		log += Math.log((n - k) / (k + 1));
		sum += Math.exp(log);
		k++;
	}
	return k === 0 ? null : { low: k, high: n + 1 - k };
}

/** How many placements it takes to see an offset: n ≥ (1.2533·z·σ/δ)².
 * @example placementsToSee(20, 15) // => 26
 */
export function placementsToSee(sigmaUm: number, offsetUm: number, errors = ERRORS): number {
	requireRange('sigmaUm', sigmaUm, 0, 1e5, 'µm');
	requireRange('offsetUm', offsetUm, 0.01, 1e5, 'µm');
	return Math.max(1, Math.ceil((MEDIAN_ERROR * errors * (sigmaUm / offsetUm)) ** 2 - 1e-9));
}

/** Whether the offsets of one group of placements ask for a correction, and which. Offsets are measured before the oven: solder pulls small parts into place.
 * @param offsetsUm measured less nominal, along one axis, µm
 * @param panels how many panels they are from
 */
export function offsetTrim(offsetsUm: readonly number[], panels: number): OffsetTrim {
	if (offsetsUm.length === 0) throw new InputError('out-of-range', 'offsetsUm', 'at least one offset', 0);
	const wrong = offsetsUm.findIndex((v) => !Number.isFinite(v));
	if (wrong >= 0) throw new InputError('not-finite', `offsetsUm.${wrong}`, 'a finite number', offsetsUm[wrong]);
	requireRange('panels', panels, 1, 1e6);
	const n = offsetsUm.length;
	const sorted = [...offsetsUm].sort((a, b) => a - b);
	const { centre: medianUm, spread: sigmaUm } = madSpread(sorted);
	const standardErrorUm = (MEDIAN_ERROR * sigmaUm) / Math.sqrt(n);
	const ranks = medianRanks(n);
	const needed = placementsToSee(sigmaUm, LEAST_UM);
	const [correct, why] = trimFor(medianUm, standardErrorUm, n, needed, panels);
	return {
		n,
		medianUm,
		meanUm: sorted.reduce((sum, v) => sum + v, 0) / n,
		sigmaUm,
		standardErrorUm,
		interval: ranks && { lowUm: sorted[ranks.low - 1]!, highUm: sorted[ranks.high - 1]! },
		correctionUm: correct ? -medianUm * (n < WHOLE_FROM ? IN_PART : 1) : 0,
		why
	};
}

function trimFor(medianUm: number, standardErrorUm: number, n: number, needed: number, panels: number): [boolean, string] {
	if (panels < LEAST_PANELS) return [false, `Too few panels: ${LEAST_PANELS} are needed, there are ${panels}.`];
	if (n < needed) return [false, `Too few placements: at this spread ${needed} are needed, there are ${n}.`];
	if (Math.abs(medianUm) <= LEAST_UM)
		return [false, `${Math.abs(medianUm).toFixed(0)} µm is not worth a correction: ${LEAST_UM} µm are let be.`];
	if (Math.abs(medianUm) <= ERRORS * standardErrorUm)
		return [false, `${Math.abs(medianUm).toFixed(0)} µm is within what chance does: ±${(ERRORS * standardErrorUm).toFixed(0)} µm.`];
	return [true, n < WHOLE_FROM ? `From ${n} placements a first correction is taken in part.` : `From ${n} placements on ${panels} panels.`];
}
