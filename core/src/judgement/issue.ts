/** What a person's file or entry got wrong, as data. `error` keeps the record out, `warning` lets it in and is shown. */
export interface Issue {
	severity: 'error' | 'warning';
	/** A word that stays the same when the sentence changes. */
	code: string;
	/** Which file, where several come together. */
	file?: string;
	/** Line in the file, the first is 1. */
	line?: number;
	column?: number;
	field: string;
	value: string;
	/** A plain sentence: what is wrong and what to do. */
	message: string;
}

const SHOWN = 60;

/** A value as it may be quoted in an issue: control characters made visible, cut to a readable length. */
export function quoteValue(value: unknown): string {
	const text = String(value).replace(/[\u0000-\u001f\u007f\ufffd]/g, '·');
	return text.length > SHOWN ? `${text.slice(0, SHOWN - 1)}…` : text;
}

export function hasErrors(issues: readonly Issue[]): boolean {
	return issues.some((issue) => issue.severity === 'error');
}
