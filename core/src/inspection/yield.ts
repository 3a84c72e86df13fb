import { noData, type Verdict } from '../judgement/index.ts';
import { wilsonInterval } from '../numerics/index.ts';

/** One non-aborted visit of a circuit to an inspection or test. */
export interface Visit {
	unit: string;
	startedAt: number;
	passed: boolean;
}

export interface FirstPass {
	/** Machine first-pass yield: first attempts that passed / units, before any review. */
	passed: number;
	units: number;
	low: number;
	high: number;
}

/** Counts first attempts. The first attempt is the earliest by start time, whatever the order of the list.
 * @see counting rule fixed by us; interval by Wilson
 */
export function firstPass(visits: readonly Visit[]): FirstPass {
	const first = new Map<string, Visit>();
	for (const visit of visits) {
		const before = first.get(visit.unit);
		if (!before || visit.startedAt < before.startedAt) first.set(visit.unit, visit);
	}
	return yieldOf([...first.values()].filter((visit) => visit.passed).length, first.size);
}

/** A yield with its interval; no units is no data, not 0 %. */
export function yieldOf(passed: number, units: number): FirstPass {
	if (units === 0) return { passed: 0, units: 0, low: 0, high: 1 };
	return { passed, units, ...wilsonInterval(passed, units) };
}

const ENOUGH = 30;

/** Says what a first-pass yield is worth. Below 30 units it gives counts, no percentage (common practice).
 * The goal is met only when the whole interval is not below it.
 */
export function judgeYield(step: string, result: FirstPass, goal: number, leader: string | null): Verdict {
	if (result.units === 0) return noData('Nothing inspected in this run yet.');
	const share = result.passed / result.units;
	const percent = (v: number) => `${(v * 100).toFixed(1)} %`;
	const because = [
		{
			quantity: `${step}, machine first-pass yield`,
			value: share * 100,
			unit: '%',
			limit: `goal ${percent(goal)}`,
			source: 'plant goal; interval by Wilson, 95 %',
			formula: `${result.passed} of ${result.units} first attempts passed: ${percent(result.low)} to ${percent(result.high)}`
		}
	];
	const count = `${result.passed} of ${result.units}`;
	if (result.units < ENOUGH)
		return { level: 'noData', statement: `${count} passed at first; too few for a percentage.`, because, doNext: [] };
	const look = leader ? [`Look at ${leader} first: it fails most`] : [];
	if (result.high < goal)
		return {
			level: 'act',
			statement: `${percent(share)} pass at first, below the goal of ${percent(goal)}.`,
			because,
			doNext: look
		};
	if (share < goal) return { level: 'watch', statement: `${percent(share)} pass at first; chance may explain it.`, because, doNext: look };
	return { level: 'good', statement: `${percent(share)} pass at first.`, because, doNext: [] };
}

export interface FailRow {
	key: string;
	count: number;
}

/** What fails where, most frequent first. */
export function countFails(calls: readonly { refDes: string; code: string }[]): { byPlace: FailRow[]; byCode: FailRow[] } {
	const count = (key: (call: { refDes: string; code: string }) => string) => {
		const sums = new Map<string, number>();
		for (const call of calls) sums.set(key(call), (sums.get(key(call)) ?? 0) + 1);
		return [...sums].map(([k, n]) => ({ key: k, count: n })).sort((a, b) => b.count - a.count || a.key.localeCompare(b.key));
	};
	return { byPlace: count((call) => `${call.refDes} ${call.code}`), byCode: count((call) => call.code) };
}

/** First-pass goals to start from; a plant sets its own. */
export const YIELD_GOALS = { pasteCheck: 0.95, optical: 0.96, inCircuit: 0.97, bench: 0.98 } as const;
