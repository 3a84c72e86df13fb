import type { Finding } from '../artwork/index.ts';
import type { Level, Verdict } from '../judgement/index.ts';

/** What can be said of a difference between the files of a side; a corrected one is not there any more in a newer revision's files. */
export const DIFFERENCE_STATES = ['open', 'accepted', 'sentBack', 'corrected'] as const;
export type DifferenceState = (typeof DIFFERENCE_STATES)[number];

/** One difference, and who said what of it. */
export interface Difference {
	/** Its number among those of its side. */
	finding: number;
	of: Finding;
	state: DifferenceState;
	reason: string;
	by: string | null;
}

const key = ({ code, value }: Pick<Finding, 'code' | 'value'>) => `${code} ${value}`;

/** Differences of a side as they stand: what a person said of each, and what a newer revision's files no longer have.
 * @param answers the latest of each, by its number; @param newer the newest revision since, if any
 */
export function differencesOf(
	findings: readonly Finding[],
	answers: readonly { finding: number; state: 'open' | 'accepted' | 'sentBack'; reason: string; by: string }[],
	newer: { revision: string; findings: readonly Finding[] } | null
): Difference[] {
	const still = new Set(newer?.findings.map(key));
	return findings.map((of, finding) => {
		const said = answers.find((a) => a.finding === finding);
		if (said && said.state !== 'open') return { finding, of, state: said.state, reason: said.reason, by: said.by };
		if (newer && !still.has(key(of))) return { finding, of, state: 'corrected', reason: `in revision ${newer.revision}`, by: null };
		return { finding, of, state: 'open', reason: said?.reason ?? '', by: said?.by ?? null };
	});
}

/** Whether a difference keeps its side from being run: an error that nobody has accepted. */
export const holdsUp = ({ of, state }: Pick<Difference, 'of' | 'state'>): boolean => of.severity === 'error' && state !== 'accepted';

/** Whether somebody still has to say of it what it is. */
export const isUnsettled = ({ state }: Pick<Difference, 'state'>): boolean => state === 'open' || state === 'corrected';

export const differenceLevel = (of: Pick<Difference, 'of' | 'state'>): Level =>
	holdsUp(of) ? 'act' : of.state === 'open' ? 'watch' : 'good';

export function judgeDifferences(differences: readonly Difference[]): Verdict {
	const held = differences.filter(holdsUp);
	const open = differences.filter(({ state }) => state === 'open');
	const [first] = held;
	if (first)
		return {
			level: 'act',
			statement: `${held.length} ${held.length === 1 ? 'difference keeps' : 'differences keep'} it from running: ${first.of.message}`,
			because: [],
			doNext: ['Accept each with a reason, send it back, or read the corrected files']
		};
	if (open.length)
		return {
			level: 'watch',
			statement: `${open.length} ${open.length === 1 ? 'difference is' : 'differences are'} to be looked at; none keeps it from running.`,
			because: [],
			doNext: ['Say of each what it is']
		};
	return {
		level: 'good',
		statement: differences.length ? `All ${differences.length} differences are settled.` : 'Parts list, positions and paste agree.',
		because: [],
		doNext: []
	};
}
