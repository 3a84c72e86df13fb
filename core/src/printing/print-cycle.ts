import { noData, type Verdict } from '../judgement/index.ts';

/** Whether the printer keeps up with the placers.
 * @param cyclesS latest print cycles, wipes included, s; @param placersS the slower placer's time a panel, s
 */
export function judgePrintCycle(cyclesS: readonly number[], placersS: number): { meanS: number | null; verdict: Verdict } {
	if (cyclesS.length === 0) return { meanS: null, verdict: noData('Nothing printed in this run yet.') };
	const meanS = cyclesS.reduce((sum, s) => sum + s, 0) / cyclesS.length;
	const paces = meanS > placersS;
	return {
		meanS,
		verdict: {
			level: paces ? 'watch' : 'good',
			statement: paces
				? `The printer sets the pace: ${meanS.toFixed(1)} s a panel against ${placersS.toFixed(1)} s at the placers.`
				: `Printing every ${meanS.toFixed(1)} s, faster than the placers need.`,
			because: [
				{
					quantity: 'Print cycle, mean of the latest panels',
					value: meanS,
					unit: 's',
					limit: `placers ${placersS.toFixed(1)} s`,
					source: 'reported by the printer; wipes included',
					formula: `mean of ${cyclesS.length} cycles`
				}
			],
			doNext: paces ? ['Lengthen the wipe interval or print faster'] : []
		}
	};
}
