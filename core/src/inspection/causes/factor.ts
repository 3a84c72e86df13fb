import type { Finding } from './cause.ts';
import type { Signature } from './signature.ts';
import type { CauseCode } from './codes.ts';
import type { Facts } from './facts.ts';
import type { Factor, FactorFit } from './regress.ts';

export const CAUSE_OF: Record<Factor, CauseCode> = {
	stroke: 'STROKE_PAIR',
	wipe: 'CLOG_WIPE',
	time: 'PASTE_AGING',
	topup: 'TOPUP_STARVE',
	pause: 'ABANDON'
};

/** A factor's effect as a finding, where it is sure enough: with two candidates where the run moved it together with another.
 * @param size sum of the slope over the run, negative where paste gets less, lp
 */
export function factorFinding(
	{ th, small }: Facts,
	factor: Factor,
	fit: FactorFit,
	size: number,
	evidence: string,
	where: Signature['where'] = {}
): Finding[] {
	const effect = fit.effects[factor];
	if (!effect || Math.abs(effect.t) < th.leastT) return [];
	const finding: Finding = { size, error: Math.abs(size / effect.t), t: effect.t, where, evidence };
	const other = small.ambiguous.findLast(([a]) => a === factor)?.[1];
	if (!other) return [finding];
	return [{ ...finding, evidence: `${evidence} It could as well be the other cause.`, candidates: [CAUSE_OF[factor], CAUSE_OF[other]] }];
}

/** The effect of a factor on other panels. @param scale what a slope adds up to */
export function factorStatistic(fit: FactorFit, factor: Factor, scale = 1) {
	const effect = fit.effects[factor];
	return effect ? { value: effect.value * scale, error: effect.error * scale } : null;
}
