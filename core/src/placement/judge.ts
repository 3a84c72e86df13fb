import { noData, type Verdict } from '../judgement/index.ts';

/** A cycle this much over the plan is watched (our start value, editable later). */
const OVER_PLAN = 0.08;
/** Act below 99.5 % good picks (common practice). */
const LOST_SHARE = 0.005;

/** How a placer does against its plan.
 * @param seen latest panels: how many, their mean cycle (s) and the picks they lost; @param plan seconds and placements a panel
 */
export function judgePlacer(
	seen: { panels: number; cycleS: number | null; lost: number },
	plan: { totalS: number; placements: number }
): Verdict {
	if (seen.panels === 0 || seen.cycleS === null || plan.placements === 0) return noData('Nothing placed in this run yet.');
	const over = seen.cycleS / plan.totalS - 1;
	const picks = seen.panels * plan.placements;
	const lostShare = seen.lost / picks;
	const losing = lostShare > LOST_SHARE;
	const slow = over > OVER_PLAN;
	return {
		level: slow || losing ? 'watch' : 'good',
		statement: losing
			? `${(lostShare * 100).toFixed(2)} % of the picks are lost.`
			: slow
				? `${seen.cycleS.toFixed(1)} s a panel, ${(over * 100).toFixed(0)} % over the plan.`
				: `${seen.cycleS.toFixed(1)} s a panel, as planned.`,
		because: [
			{
				quantity: 'Cycle, mean of the latest panels',
				value: seen.cycleS,
				unit: 's',
				limit: `plan ${plan.totalS.toFixed(1)} s`,
				source: 'reported by the machine; plan from the full cycle model'
			},
			{
				quantity: 'Picks lost',
				value: lostShare * 100,
				unit: '%',
				limit: 'at most 0.5 %',
				source: 'common practice: act below 99.5 % good picks',
				formula: `${seen.lost} lost of ${picks} picks`
			}
		],
		doNext: losing ? ['Open the load list: see which slot loses'] : []
	};
}
