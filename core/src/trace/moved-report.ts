import type { Level } from '../judgement/index.ts';

/** What an inspection came to. */
export interface CameTo {
	result: 'pass' | 'review' | 'reject';
	fails: number;
	pads: number;
}

/** A report that was found to be of another pass of its panel, because a print was heard late. Times as they are read on the wall. */
export interface MovedReport {
	/** Of the station: "Paste check". */
	report: string;
	/** When it was made. */
	at: string;
	/** When it was found to be of the other pass. */
	movedAt: string;
	/** First prints of the pass on which it was shown, and of the one that it is of. */
	shownOn: string;
	isOf: string;
	/** What it was shown as; null where the station judges itself. */
	shown: CameTo | null;
	/** What it comes to by the foil and the pads of its own pass. */
	judged: CameTo | null;
}

/** How a moved report is told, on the pass that it is of and on the one on which it was shown: what was shown stays readable, and what arrived late is said. */
export function tellMoved(m: MovedReport): {
	here: { what: string; level: Level | null; text: string };
	there: { what: string; text: string };
} {
	const report = `${m.report} of ${m.at}`;
	const differs = m.shown !== null && m.judged !== null && words(m.shown) !== words(m.judged);
	return {
		here: {
			what: differs ? `${m.report}: judged anew` : `${m.report}: came over`,
			level: differs ? LEVEL[m.judged!.result] : null,
			text:
				`The print of ${m.isOf} arrived late, by ${m.movedAt}: ${report} is of this pass, and was shown on the one printed at ${m.shownOn} until then` +
				(differs ? `, as ${words(m.shown!)}. By this pass’s foil and pads it is ${words(m.judged!)}.` : '.')
		},
		there: {
			what: `${m.report}: went over`,
			text: `${report} was shown here${m.shown ? ` as ${words(m.shown)}` : ''} until ${m.movedAt}. The print of ${m.isOf} arrived late and shows that it is of that pass.`
		}
	};
}

const LEVEL: Record<CameTo['result'], Level> = { pass: 'good', review: 'watch', reject: 'act' };

const words = ({ result, fails, pads }: CameTo) => `${result} (${fails} of ${pads} ${pads === 1 ? 'pad fails' : 'pads fail'})`;
