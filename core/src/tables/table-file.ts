// The build that needs nothing of a server: tables are read in workers too.
import { parse } from 'csv-parse/browser/esm/sync';
import { type Issue, quoteValue } from '../judgement/index.ts';

/** A text table with the physical line on which each record starts. */
export interface TableRow {
	line: number;
	cells: string[];
}

export interface TableText {
	text: string;
	encoding: 'utf-8' | 'utf-16' | 'windows-1252';
}

/** Bytes to text: byte order mark first, else strict UTF-8, else Windows-1252. NUL bytes outside UTF-16 mean binary.
 * @returns the text, or an issue that says what the file looks like
 */
export function decodeText(bytes: Uint8Array, decoder: TextDecoders): TableText | Issue {
	if (bytes.length === 0) return problem('empty_file', '', 'The file is empty. Export it again and choose it once more.');
	const marked16 = (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff);
	if (marked16) return { text: decoder(bytes, bytes[0] === 0xff ? 'utf-16le' : 'utf-16be') ?? '', encoding: 'utf-16' };
	if (bytes.subarray(0, 4096).includes(0))
		return problem(
			'binary_file',
			String.fromCharCode(...bytes.subarray(0, 8)),
			'This is a binary file, not text. If it is an archive or a spreadsheet, unpack it or save it as CSV.'
		);
	const utf8 = decoder(bytes, 'utf-8');
	if (utf8 !== null) return { text: utf8.replace(/^\ufeff/, ''), encoding: 'utf-8' };
	return { text: decoder(bytes, 'windows-1252') ?? '', encoding: 'windows-1252' };
}

/** Decodes strictly: null where the bytes are not valid in that encoding. The caller brings it: core has no platform. */
export type TextDecoders = (bytes: Uint8Array, encoding: string) => string | null;

function problem(code: string, value: string, message: string): Issue {
	return { severity: 'error', code, line: 1, field: 'file', value: quoteValue(value), message };
}

const DELIMITERS = ['\t', ';', ',', '|', ' '] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/** The delimiter that cuts a header line into the most cells: numbers below may hold decimal commas, titles rarely do. */
export function headerDelimiter(header: string): Delimiter {
	const cells = (delimiter: Delimiter) => header.split(delimiter).length;
	return DELIMITERS.slice(0, 4).reduce((best, next) => (cells(next) > cells(best) ? next : best));
}

const COMMENT_LEADER = /^\s*(#|\*|\/\/|!|%)\s*/;

/** Splits a text table. Quoted cells may hold the delimiter and line breaks. A quote inside a bare cell is kept. */
export function splitTable(text: string, delimiter: Delimiter): TableRow[] {
	if (delimiter === ' ') {
		return text.split(/\r\n|\r|\n/).map((raw, i) => ({
			line: i + 1,
			cells: [...raw.trim().matchAll(/"([^"]*)"|(\S+)/g)].map((m) => m[1] ?? m[2] ?? '')
		}));
	}
	const records = parse(text, {
		delimiter,
		relax_column_count: true,
		relax_quotes: true,
		skip_empty_lines: false,
		info: true,
		trim: true
	}) as unknown as { record: string[]; info: { lines: number } }[];
	let previous = 0;
	return records.map(({ record, info }) => {
		const line = previous + 1;
		previous = info.lines;
		return { line, cells: record };
	});
}

/** A quoted cell that is opened and never closed swallows the rest of the file: it was cut short, or a quote is missing.
 * @param delimiter where it is known: then a cell that goes on after its closing quote is told as well
 * @returns the issue with the line of the quote, or null
 */
export function openQuote(text: string, delimiter: Delimiter | null = null): Issue | null {
	if (!text.includes('"')) return null;
	for (const tried of delimiter ? [delimiter] : ([',', ';', '\t'] as const)) {
		try {
			splitTable(text, tried);
		} catch (error) {
			const said = error instanceof Error ? error.message : '';
			const closed = !said.includes('opening quote');
			const line = Number(/at line (\d+)/.exec(said)?.[1]);
			if (!line || (closed && !delimiter)) continue;
			const raw = text.split(/\r\n|\r|\n/)[line - 1] ?? '';
			return {
				severity: 'error',
				code: 'open_quote',
				line,
				field: 'quote',
				value: quoteValue(raw.slice(raw.lastIndexOf('"'))),
				message: closed
					? `Line ${line}: a quoted cell goes on after its closing quote. Double the quotes that belong to the text, or leave them out.`
					: `Line ${line}: a quoted cell is opened and never closed. The file was cut short, or a quote is missing.`
			};
		}
	}
	return null;
}

export interface Header<Role extends string> {
	delimiter: Delimiter;
	rows: TableRow[];
	/** Index into `rows`. */
	headerAt: number;
	columns: Partial<Record<Role, number>>;
	titles: string[];
	commented: boolean;
}

/** Finds the header: the first line, also inside a comment leader, where one delimiter yields all the roles that are needed. */
export function findHeader<Role extends string>(
	text: string,
	rolesOf: (titles: readonly string[]) => Partial<Record<Role, number>>,
	needed: readonly Role[]
): Header<Role> | null {
	let best: Header<Role> | null = null;
	for (const delimiter of DELIMITERS) {
		let rows: TableRow[];
		try {
			rows = splitTable(text, delimiter);
		} catch {
			continue;
		}
		for (const [i, row] of rows.slice(0, 60).entries()) {
			const commented = COMMENT_LEADER.test(row.cells[0] ?? '');
			const titles = row.cells.map((cell, k) => (k === 0 ? cell.replace(COMMENT_LEADER, '') : cell).trim());
			if (commented && titles[0] === '') titles.shift();
			const columns = rolesOf(titles);
			if (!needed.every((role) => columns[role] !== undefined)) continue;
			if (!best || row.line < best.rows[best.headerAt]!.line) best = { delimiter, rows, headerAt: i, columns, titles, commented };
			break;
		}
	}
	return best?.delimiter === ' ' ? (fixedWidth(text, best, rolesOf, needed) ?? best) : best;
}

/** A line that is no row of a blank-separated table: a comment, or what a program writes below its rows. */
const NO_ROW = /^\s*$|^\s*(#|\*|\/\/|!|%|=+|-+)|^\s*(total|end|count|sum)\b/i;

/** The same table cut at the columns of characters that are blank in every line, where blanks stand in cells; null where the lines do not stand in columns. */
function fixedWidth<Role extends string>(
	text: string,
	{ rows, headerAt, titles, commented }: Header<Role>,
	rolesOf: (titles: readonly string[]) => Partial<Record<Role, number>>,
	needed: readonly Role[]
): Header<Role> | null {
	const header = rows[headerAt]!;
	const lines = text.split(/\r\n|\r|\n/);
	const body = lines.map((raw, i) => ({ raw, line: i + 1 })).filter(({ raw, line }) => line > header.line && !NO_ROW.test(raw));
	if (body.every(({ raw }) => raw.trim().split(/\s+/).length === titles.length)) return null;
	const own = lines[header.line - 1]!.replace(COMMENT_LEADER, (leader) => ' '.repeat(leader.length));
	const used: boolean[] = [];
	for (const raw of [own, ...body.map((b) => b.raw)]) for (let i = 0; i < raw.length; i++) if (raw[i] !== ' ') used[i] = true;
	const fields: [number, number][] = [];
	for (let i = 0; i <= used.length; i++) {
		if (used[i] && !used[i - 1]) fields.push([i, i + 1]);
		if (used[i]) fields.at(-1)![1] = i + 1;
	}
	const cut = (raw: string) =>
		fields.map(([from, to]) =>
			raw
				.slice(from, to)
				.trim()
				.replace(/^"(.*)"$/, '$1')
		);
	const titlesCut = cut(own);
	const columns = rolesOf(titlesCut);
	if (fields.length < titles.length || !needed.every((role) => columns[role] !== undefined)) return null;
	const all = [
		...rows.slice(0, headerAt),
		{ line: header.line, cells: titlesCut },
		...lines.flatMap((raw, i) =>
			i + 1 > header.line ? [{ line: i + 1, cells: NO_ROW.test(raw) ? raw.trim().split(/\s+/) : cut(raw) }] : []
		)
	];
	return { delimiter: ' ', rows: all, headerAt, columns, titles: titlesCut, commented };
}

/** Header word as it is compared: case, blanks, punctuation and unit ignored. */
export function plainTitle(title: string): string {
	return title
		.toLowerCase()
		.replace(/[([].*?[)\]]/g, '')
		.replace(/[^a-zäöüß0-9/#]/g, '');
}
