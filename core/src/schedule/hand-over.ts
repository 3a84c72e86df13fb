import { type FirstPass } from '../inspection/index.ts';
import { levelWord, type Level, type Verdict } from '../judgement/index.ts';
import { lostTimeLines, type LostTime } from './stops.ts';

/** What a shift did, as counted from the records. */
export interface ShiftFacts {
	panelsPrinted: number;
	panelsFinished: number;
	/** By step, in line order. */
	yields: { step: string; result: FirstPass }[];
	/** Most frequent fails, "R12 tombstone", with counts. */
	fails: { step: string; what: string; count: number }[];
	/** Stations that are not good now, each with its one sentence and act: the same that its tile and page say. */
	stands: { station: string; level: Level; sentence: string; act: string | null }[];
	running: { job: string; board: string; done: number; quantity: number }[];
	lost: LostTime;
	/** Panels rejected at paste check or failed later, that nobody has settled. */
	open: { what: string; count: number }[];
	changes: { at: string; who: string; what: string }[];
}

/** Stations that are not in order, each with its one sentence and act, as a hand-over says them. */
export function notInOrder(stations: readonly { name: string; verdict: Verdict; act: { say: string } | null }[]): ShiftFacts['stands'] {
	return stations.flatMap(({ name, verdict: { level, statement }, act }) =>
		level === 'good' || level === 'noData' ? [] : [{ station: name, level, sentence: statement, act: act?.say ?? null }]
	);
}

/** Sentences of a hand-over: what runs, what failed most, what is open. A person adds to them; nothing is dropped. */
export function handOverLines(facts: ShiftFacts): { heading: string; lines: string[] }[] {
	const percent = (v: number) => `${(v * 100).toFixed(1)} %`;
	return [
		{
			heading: 'Running',
			lines: facts.running.length
				? facts.running.map((run) => `${run.job}, ${run.board}: ${run.done} of ${run.quantity} panels done`)
				: ['Nothing is running']
		},
		{
			heading: 'Stations',
			lines: facts.stands.length
				? facts.stands.map((s) => `${s.station}: ${levelWord(s.level)}. ${s.sentence}${s.act ? ` ${s.act}.` : ''}`)
				: ['Every station is in order']
		},
		{
			heading: 'Results',
			lines: [
				`${facts.panelsPrinted} panels printed, ${facts.panelsFinished} finished`,
				...facts.yields.map(({ step, result }) =>
					result.units === 0
						? `${step}: no data`
						: result.units < 30
							? `${step}: ${result.passed} of ${result.units} passed at first`
							: `${step}: ${percent(result.passed / result.units)} passed at first (${result.passed} of ${result.units}; ${(result.low * 100).toFixed(1)} to ${percent(result.high)})`
				)
			]
		},
		{ heading: 'Lost time', lines: lostTimeLines(facts.lost) },
		{
			heading: 'Failed most',
			lines: facts.fails.length
				? facts.fails.map((f) => `${f.what}, ${f.count === 1 ? 'once' : `${f.count} times`} at ${f.step}`)
				: ['Nothing failed']
		},
		{
			heading: 'Open',
			lines: facts.open.length ? facts.open.map((o) => `${o.count} ${o.what}`) : ['Nothing is open']
		},
		{
			heading: 'Changed',
			lines: facts.changes.length ? facts.changes.map((c) => `${c.at} ${c.who}: ${c.what}`) : ['Nothing was changed']
		}
	];
}
