import { InputError, requireRange } from '../judgement/index.ts';

export interface EwmaChart {
	/** z₁ … zₙ. */
	points: number[];
	/** Half width of the limits at each point. */
	reach: number[];
	/** Half width that the limits approach. */
	finalReach: number;
	beyond: number[];
}

/** Exponentially weighted moving average, with limits that widen from the first point.
 * z₀ = centre; z = λ·x + (1−λ)·z; ± L·σ·√(λ/(2−λ)·(1−(1−λ)^2i)).
 * @param lambda 0 < λ ≤ 1, usually 0.2 to 0.3; @param width L, in standard deviations
 * @throws {InputError} `out-of-range`
 * @see NIST/SEMATECH e-Handbook, section on EWMA charts (from memory; checks/print-control.test.ts)
 */
export function ewmaChart(values: readonly number[], centre: number, sigma: number, lambda = 0.25, width = 3): EwmaChart {
	requireRange('lambda', lambda, 1e-6, 1);
	if (!(sigma > 0)) throw new InputError('out-of-range', 'sigma', 'more than 0', sigma);
	const points: number[] = [];
	const reach: number[] = [];
	let z = centre;
	const finalReach = width * sigma * Math.sqrt(lambda / (2 - lambda));
	values.forEach((x, i) => {
		z = lambda * x + (1 - lambda) * z;
		points.push(z);
		reach.push(finalReach * Math.sqrt(1 - (1 - lambda) ** (2 * (i + 1))));
	});
	return { points, reach, finalReach, beyond: points.flatMap((p, i) => (Math.abs(p - centre) > reach[i]! ? [i] : [])) };
}
