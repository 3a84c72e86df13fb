import { combine, noData, type Level, type Verdict } from '../judgement/index.ts';
import { type Action } from '../people/index.ts';
import type { Due } from '../schedule/index.ts';

/** Something that a person does about a verdict. */
export interface Act {
	/** Imperative. */
	say: string;
	/** The place where it is done, as the application names its places. */
	where: string;
	/** The right that it asks for; null where it asks for none. */
	right: Action | null;
	/** Latest safe moment, ms; null: now. */
	byMs: number | null;
}

/** One thing in use that a station is judged by: the present run, a released revision, mounted material, open causes. Never a draft or a what-if. */
export interface Part {
	verdict: Verdict;
	/** Where its act is done, and the right that it asks for. */
	where: string;
	right: Action | null;
}

export interface Standing {
	verdict: Verdict;
	/** What to do about it; null where nothing is to be done. */
	act: Act | null;
}

const ORDER: readonly Level[] = ['stopped', 'act', 'watch', 'good', 'noData'];
const rank = (level: Level) => ORDER.indexOf(level);

/** How overdue something is, in words that need no clock. */
function late(ms: number): string {
	const min = Math.floor(ms / 60_000);
	if (min < 1) return 'due now';
	return min < 60 ? `due for ${min} min` : `due for ${Math.floor(min / 60)} h ${min % 60} min`;
}

/** What is overdue is a verdict of its own: it stays until it is done or is no longer true. */
function overdue({ atMs, action, reason, where, right }: Due, nowMs: number): Part {
	return {
		verdict: { level: 'act', statement: `${action}: ${late(nowMs - atMs)}, ${reason}.`, because: [], doNext: [action] },
		where,
		right
	};
}

/** A station's one verdict: the worst of what is in use there and of what is overdue, with its act. Tile, page head, next up and hand-over print this one.
 * A machine that stands still says so first.
 * @param machine its name, whether it has stopped, and the reason that it gives; null for what is no machine
 * @param dues of this station, at any time
 * @param nowMs plant time
 */
export function stationStands(
	machine: { name: string; stopped: boolean; reason: string | null } | null,
	parts: readonly Part[],
	dues: readonly Due[],
	nowMs: number
): Standing {
	const all = [...parts, ...dues.filter((due) => due.atMs <= nowMs).map((due) => overdue(due, nowMs))];
	if (all.length === 0) return { verdict: noData('Nothing to judge.'), act: null };
	const worst = all.reduce((a, b) => (rank(b.verdict.level) < rank(a.verdict.level) ? b : a));
	const verdict = combine(all.map((part) => part.verdict));
	// What would do nothing for the worst is not said before it.
	const doNext = [...new Set([...worst.verdict.doNext, ...verdict.doNext])];
	if (machine?.stopped) {
		const say = `Clear it: ${machine.reason ?? 'no reason given'}`;
		return {
			verdict: {
				...verdict,
				level: 'stopped',
				statement: `${machine.name} has stopped: ${machine.reason ?? 'no reason given'}.`,
				doNext: [say]
			},
			act: { say, where: '', right: 'stop.explain', byMs: null }
		};
	}
	const say = worst.verdict.doNext[0];
	const asks = rank(worst.verdict.level) < rank('good');
	return {
		verdict: { ...worst.verdict, because: verdict.because, doNext },
		act: asks && say !== undefined ? { say, where: worst.where, right: worst.right, byMs: null } : null
	};
}

/** What next up says of a station: the act that its verdict asks for now, and what falls due there. An act that is a due stands there once, under its own time;
 * what is only to be watched calls nobody.
 */
export function nextOf(
	station: string,
	{ verdict, act }: Standing,
	dues: readonly Due[],
	nowMs: number
): (Omit<Due, 'right'> & Pick<Act, 'right'>)[] {
	const calls = act !== null && verdict.level !== 'watch' && !dues.some((due) => due.action === act.say);
	if (!calls) return [...dues];
	return [{ atMs: nowMs, station, action: act.say, reason: verdict.statement, where: act.where, right: act.right }, ...dues];
}

/** How a line stands: what its worst station says; where all is well, its pace.
 * @param stations in the order boards travel
 */
export function lineStands(
	stations: readonly { name: string; verdict: Verdict; act: { say: string } | null }[],
	pace: Verdict
): { level: Level; station: string | null; statement: string } {
	const worst = stations.reduce<(typeof stations)[number] | null>(
		(a, b) => (!a || rank(b.verdict.level) < rank(a.verdict.level) ? b : a),
		null
	);
	if (!worst || rank(worst.verdict.level) >= rank('good'))
		return { level: worst?.verdict.level ?? 'noData', station: null, statement: pace.statement };
	return { level: worst.verdict.level, station: worst.name, statement: worst.verdict.statement };
}
