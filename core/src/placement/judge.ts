import { noData, type Verdict } from '../judgement/index.ts';

/** Acted on below 99.5 % good picks (common practice). */
export const ACT_LOST_SHARE = 0.005;

/** How a placer's picks go in its latest panels; how fast it is stands in the pace of the line.
 * @param seen panels, and the picks that they lost; @param placements a panel
 */
export function judgePicks(seen: { panels: number; lost: number }, placements: number): Verdict {
	if (seen.panels === 0 || placements === 0) return noData('Nothing placed in this run yet.');
	const picks = seen.panels * placements;
	const lostShare = seen.lost / picks;
	const losing = lostShare > ACT_LOST_SHARE;
	const percent = `${(lostShare * 100).toFixed(2)} %`;
	return {
		level: losing ? 'watch' : 'good',
		statement: losing ? `${percent} of the picks are lost.` : `${percent} of the picks lost, as it should be.`,
		because: [
			{
				quantity: 'Picks lost',
				value: lostShare * 100,
				unit: '%',
				limit: 'at most 0.5 %',
				source: 'common practice: act below 99.5 % good picks',
				formula: `${seen.lost} lost of ${picks} picks`
			}
		],
		doNext: losing ? ['See which slot loses'] : []
	};
}
