import type { Level } from './level.ts';

/** One quantity that decided a verdict: what the page opens as the working. */
export interface Reason {
	quantity: string;
	value: number | string | null;
	unit: string;
	/** The limit in words, "at least 0.66"; null where the quantity only informs. */
	limit: string | null;
	/** Where the limit comes from: a standard ("value from memory" where it is) or "common practice". */
	source: string;
	/** The formula with its inputs filled in, where there is one. */
	formula?: string;
}

/** A judgement as data: pages print it, they do not compute it. */
export interface Verdict {
	level: Level;
	/** A sentence that answers "is it all right?". */
	statement: string;
	because: Reason[];
	/** Imperatives, most useful first. */
	doNext: string[];
}

/** The verdict where nothing was measured yet. */
export function noData(statement: string, doNext: string[] = []): Verdict {
	return { level: 'noData', statement, because: [], doNext };
}

const ORDER: Record<Level, number> = { stopped: 0, act: 1, watch: 2, good: 3, noData: 4 };

/** One verdict from several about the same station: the worst speaks, the evidence of all stands behind it. */
export function combine(verdicts: readonly Verdict[]): Verdict {
	const ranked = [...verdicts].sort((a, b) => ORDER[a.level] - ORDER[b.level]);
	const worst = ranked[0];
	if (!worst) return noData('Nothing to judge.');
	return { ...worst, because: ranked.flatMap((v) => v.because), doNext: [...new Set(ranked.flatMap((v) => v.doNext))] };
}
