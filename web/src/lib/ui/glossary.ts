import text from '../../../../docs/glossary.md?raw';

export interface Term {
	/** The first is what it is called. */
	names: readonly string[];
	meaning: string;
}

/** Words of the trade as this plant uses them, from the one list that there is of them. */
export const GLOSSARY: readonly Term[] = readGlossary(text);

export function readGlossary(markdown: string): Term[] {
	return [...markdown.matchAll(/^- \*\*(.+?)\*\*: (.+)$/gm)].map(([, names, meaning]) => ({
		names: names!.split(', '),
		meaning: meaning!
	}));
}

const escaped = (name: string) => name.toLowerCase().replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
/** A name, alone or as several; the longest first, so that "area ratio" is not taken for "ratio". */
const wordsOf = (terms: readonly Term[]) =>
	new RegExp(
		`(?<![\\p{L}\\d-])(${terms
			.flatMap((term) => term.names)
			.sort((a, b) => b.length - a.length)
			.map(escaped)
			.join('|')})(?:s|es)?(?![\\p{L}\\d-])`,
		'giu'
	);
const WORDS = wordsOf(GLOSSARY);

export interface Found {
	from: number;
	to: number;
	term: Term;
}

/** Where a text has words of the list. */
export function termsIn(line: string): Found[] {
	return [...line.matchAll(WORDS)].map((match) => ({
		from: match.index,
		to: match.index + match[0].length,
		term: GLOSSARY.find((term) => term.names.some((name) => name.toLowerCase() === match[1]!.toLowerCase()))!
	}));
}
