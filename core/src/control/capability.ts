import { InputError } from '../judgement/index.ts';
import { mean, quantile } from '../numerics/index.ts';

export interface Capability {
	mean: number;
	sigma: number;
	/** Readings that the spread comes from. */
	n: number;
	cpk: number;
	/** 95 % lower bound, one-sided. */
	cpkLower: number;
	/** From the 0.135, 50 and 99.865 percentiles: skewed volumes; null below 1000 readings. */
	ppkPercentile: number | null;
	/** What the number is worth: with few readings no number is given as a promise. */
	remark: string;
}

const Z95 = 1.6448536269514722;
const ENOUGH_FOR_TAILS = 1000;
const ENOUGH = 50;

/** Cpk from mean and spread with its 95 % lower bound.
 * Cpk − z·√(1/(9n) + Cpk²/(2(n−1))).
 * @param n readings, at least 2
 * @see NIST/SEMATECH e-Handbook, confidence limits of Cpk (formula from memory)
 * @example cpk(93, 9, 60, 140, 120) // => { cpk: 1.2222, cpkLower: 1.0826 }
 */
export function cpk(meanValue: number, sigma: number, low: number, high: number, n: number): { cpk: number; cpkLower: number } {
	if (!(sigma > 0)) throw new InputError('out-of-range', 'sigma', 'more than 0', sigma);
	if (!(n >= 2)) throw new InputError('out-of-range', 'n', 'at least 2 readings', n);
	const value = Math.min(high - meanValue, meanValue - low) / (3 * sigma);
	return { cpk: value, cpkLower: value - Z95 * Math.sqrt(1 / (9 * n) + value ** 2 / (2 * (n - 1))) };
}

/** Capability of one class: the spread is pooled within each pad over the panels, the pads' own means are kept out of it.
 * @param readings one array a pad, one value a panel
 * @returns null where no pad has two readings or nothing varies
 */
export function classCapability(readings: readonly (readonly number[])[], low: number, high: number): Capability | null {
	let squares = 0;
	let freedom = 0;
	for (const pad of readings) {
		if (pad.length < 2) continue;
		const centre = mean(pad);
		for (const v of pad) squares += (v - centre) ** 2;
		freedom += pad.length - 1;
	}
	if (freedom === 0 || squares === 0) return null;
	const all = readings.flat();
	const sigma = Math.sqrt(squares / freedom);
	const centre = mean(all);
	const n = all.length;
	const tails = n >= ENOUGH_FOR_TAILS;
	const [p0, p50, p100] = tails ? [quantile(all, 0.00135), quantile(all, 0.5), quantile(all, 0.99865)] : [0, 0, 0];
	return {
		mean: centre,
		sigma,
		n,
		...cpk(centre, sigma, low, high, n),
		ppkPercentile: tails && p100! > p0! ? Math.min((high - p50!) / (p100! - p50!), (p50! - low) / (p50! - p0!)) : null,
		remark: n < ENOUGH ? `n too small: ${n} readings` : tails ? '' : `percentiles need ${ENOUGH_FOR_TAILS} readings, there are ${n}`
	};
}
