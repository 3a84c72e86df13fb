import { mean } from '../numerics/index.ts';
import { noData, type Verdict } from '../judgement/index.ts';

/** What a station takes for a panel. */
export interface StagePace {
	name: string;
	/** From its plan, recipe or setting, s; null where none says. */
	plannedS: number | null;
	/** Its latest cycles as it reported them, s; none where it reports none. */
	cyclesS: readonly number[];
}

/** A cycle this much over its plan is watched (our start value, editable later). */
const OVER_PLAN = 0.08;
/** Cycles that a measured pace is said from at least. */
const LEAST_CYCLES = 5;

export interface LinePace {
	/** Seconds a panel of the slowest station; null where nothing is known. */
	taktS: number | null;
	/** The station that sets the pace. */
	bottleneck: string | null;
	/** Seconds a panel by station: as measured, else as planned. */
	byStation: { name: string; secondsS: number; measured: boolean }[];
	verdict: Verdict;
}

/** How much a cycle is over its plan, in words; null where it is not more than is allowed. Exactly 8 % is. */
function overPlan(seconds: number, plannedS: number | null): string | null {
	if (plannedS === null || seconds <= plannedS * (1 + OVER_PLAN) * (1 + 1e-9)) return null;
	return `${(100 * (seconds / plannedS - 1)).toFixed(0)} %`;
}

/** The pace of a line, judged once: the slowest station sets it, and only there is time to be gained. What a station reports counts before what was planned.
 * @param byHandTypes part types that no machine takes
 */
export function judgePace(stages: readonly StagePace[], byHandTypes = 0): LinePace {
	const byStation = stages.flatMap(({ name, plannedS, cyclesS }) => {
		if (cyclesS.length >= LEAST_CYCLES) return [{ name, secondsS: mean(cyclesS), measured: true }];
		return plannedS === null ? [] : [{ name, secondsS: plannedS, measured: false }];
	});
	const ranked = [...byStation].sort((a, b) => b.secondsS - a.secondsS);
	const [slowest, second] = ranked;
	if (!slowest) return { taktS: null, bottleneck: null, byStation, verdict: noData('No station of this line says how long it takes.') };
	const planned = stages.find((s) => s.name === slowest.name)!.plannedS;
	const over = overPlan(slowest.secondsS, planned);
	const hand = byHandTypes > 0 ? `${byHandTypes} part ${byHandTypes === 1 ? 'type needs' : 'types need'} a hand` : '';
	return {
		taktS: slowest.secondsS,
		bottleneck: slowest.name,
		byStation,
		verdict: {
			level: over !== null || byHandTypes > 0 ? 'watch' : 'good',
			statement: `One panel every ${slowest.secondsS.toFixed(1)} s; ${slowest.name} sets the pace${over === null ? '' : `, ${over} over its plan`}${hand ? `; ${hand}` : ''}.`,
			because: ranked.map(({ name, secondsS, measured }) => ({
				quantity: name,
				value: secondsS,
				unit: 's a panel',
				limit: name === slowest.name ? 'slowest: this is the takt' : null,
				source: measured ? 'mean of the cycles that it reported last' : 'from the full cycle model or the station’s own setting'
			})),
			doNext: [
				...(byHandTypes > 0 ? [`Place ${byHandTypes} part ${byHandTypes === 1 ? 'type' : 'types'} by hand: no machine takes them`] : []),
				...(second
					? [`Only ${slowest.name} counts: ${(slowest.secondsS - second.secondsS).toFixed(1)} s gained there before ${second.name} is next`]
					: [])
			]
		}
	};
}

/** What one station's cycle comes to beside the line's pace: its own part of it, never another opinion on it. */
export function judgeOwnPace(name: string, cyclesS: readonly number[], plannedS: number | null, pace: LinePace): Verdict {
	if (cyclesS.length === 0) return noData(`${name}: no cycle was reported in this run yet.`);
	const meanS = mean(cyclesS);
	const over = overPlan(meanS, cyclesS.length < LEAST_CYCLES ? null : plannedS);
	const slow = over !== null;
	const sets = pace.bottleneck === name;
	return {
		level: slow ? 'watch' : 'good',
		statement: slow
			? `${meanS.toFixed(1)} s a panel, ${over} over the plan${sets ? '; it sets the pace of the line' : ''}.`
			: sets
				? `${meanS.toFixed(1)} s a panel; it sets the pace of the line.`
				: `${meanS.toFixed(1)} s a panel${pace.taktS === null ? '' : `; ${pace.bottleneck} sets the pace at ${pace.taktS.toFixed(1)} s`}.`,
		because: [
			{
				quantity: `Cycle, mean of the latest ${cyclesS.length}`,
				value: meanS,
				unit: 's',
				limit: plannedS === null ? null : `plan ${plannedS.toFixed(1)} s, watched from ${(100 * OVER_PLAN).toFixed(0)} % over it`,
				source: 'reported by the machine; the limit is our start value'
			}
		],
		doNext: slow ? [`Look why ${name} takes longer than planned`] : []
	};
}
