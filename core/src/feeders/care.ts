import type { Verdict } from '../judgement/index.ts';

/** After so many picks somebody looks at it [ours]; the machine's manual says what is right for it. */
export const CARE_RULES = { feederPicks: 500_000, nozzlePicks: 100_000 };
export type CareRules = typeof CARE_RULES;

/** What wears by picking. */
export interface Wearing {
	kind: 'feeder' | 'nozzle';
	name: string;
	picks: number;
	/** Of them, those before somebody last cared for it. */
	caredPicks: number;
	/** Faults that somebody saw since then. */
	faults?: number;
}

export const picksSinceCare = ({ picks, caredPicks }: Pick<Wearing, 'picks' | 'caredPicks'>): number => Math.max(0, picks - caredPicks);

/** So many faults since it was cared for are no chance any more ([ours]). */
export const FAULTS_DUE = 3;

/** Whether somebody should look at it: by its picks, or by its faults. */
export const careIsDue = (of: Wearing, rules: CareRules = CARE_RULES): boolean =>
	(of.faults ?? 0) >= FAULTS_DUE || picksSinceCare(of) >= (of.kind === 'feeder' ? rules.feederPicks : rules.nozzlePicks);

/** What is due for care, the longest overdue first; null: nothing is. */
export function judgeCare(all: readonly Wearing[], rules: CareRules = CARE_RULES): Verdict | null {
	const limitOf = ({ kind }: Wearing) => (kind === 'feeder' ? rules.feederPicks : rules.nozzlePicks);
	// By whichever is nearer its limit, or farther beyond it.
	const share = (of: Wearing) => Math.max(picksSinceCare(of) / limitOf(of), (of.faults ?? 0) / FAULTS_DUE);
	const due = all.filter((of) => careIsDue(of, rules)).sort((a, b) => share(b) - share(a));
	const [first] = due;
	if (!first) return null;
	const named = `${first.kind === 'feeder' ? 'Feeder' : 'Nozzle'} ${first.name}`;
	const faults = first.faults ?? 0;
	const since = `${faults >= FAULTS_DUE ? `${faults} faults` : `${picksSinceCare(first)} picks`} since the last`;
	return {
		level: 'watch',
		statement: due.length === 1 ? `${named} is due for care: ${since}.` : `${due.length} are due for care, ${named} first: ${since}.`,
		because: [
			{
				quantity: 'Faults since it was cared for',
				value: faults,
				unit: 'faults',
				limit: `${FAULTS_DUE}`,
				source: 'as people reported them; the limit is ours'
			},
			{
				quantity: 'Picks since it was cared for',
				value: picksSinceCare(first),
				unit: 'picks',
				limit: `${limitOf(first)}`,
				source: 'the plant’s rule; the machine’s manual says what is right for it'
			}
		],
		doNext: [first.kind === 'feeder' ? `Clean and check ${named}` : `Clean ${named}, look at its tip`]
	};
}

/** What it says of a placer that its program places with nozzles that are out of service; null: it does not. */
export function judgeNozzlesOut(out: readonly { name: string; why: string }[]): Verdict | null {
	const [first] = out;
	if (!first) return null;
	return {
		level: 'act',
		statement: `The program places with nozzle ${first.name}, out of service: ${first.why}${out.length > 1 ? `; and with ${out.length - 1} more` : ''}.`,
		because: out.map(({ name, why }) => ({
			quantity: `Nozzle ${name}`,
			value: 'out of service',
			unit: '',
			limit: 'none that the program places with',
			source: why
		})),
		doNext: [`Put another nozzle in as ${first.name}, then take it back into service`]
	};
}
