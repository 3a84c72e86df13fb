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
	/** Index into `rows`; -1 where the file has none and a person said which column is what. */
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
			const titles = titlesOf(row);
			const columns = rolesOf(titles);
			if (!needed.every((role) => columns[role] !== undefined)) continue;
			if (!best || row.line < best.rows[best.headerAt]!.line) best = { delimiter, rows, headerAt: i, columns, titles, commented };
			break;
		}
	}
	return best?.delimiter === ' ' ? (fixedWidth(text, best, rolesOf, needed) ?? best) : best;
}

/** Which column is what, as a person chose it, for every file with the same titles. */
export interface ColumnChoice {
	delimiter: Delimiter;
	/** The header's cells; null: there is none, the first line is data. */
	titles: readonly string[] | null;
	/** By column; null where it is of no use. */
	roles: readonly (string | null)[];
}

/** A table as it was cut, with what each column was taken for. */
export interface ColumnsSeen extends ColumnChoice {
	/** The first rows below the header. */
	sample: string[][];
}

const SAMPLE_ROWS = 6;
/** Nobody says of more columns than these what they are; a file that has more is no list of parts. */
const MOST_COLUMNS = 100;

export function columnsSeen({ delimiter, rows, headerAt, columns, titles }: Header<string>, known: readonly string[]): ColumnsSeen | null {
	const width = Math.max(titles.length, ...Object.values(columns).map((at) => (at ?? -1) + 1));
	if (width > MOST_COLUMNS) return null;
	return {
		delimiter,
		titles: headerAt < 0 ? null : titles,
		roles: Array.from({ length: width }, (_, i) => known.find((role) => columns[role] === i) ?? null),
		sample: rows
			.slice(headerAt + 1)
			.filter((row) => row.cells.some((cell) => cell.trim() !== ''))
			.slice(0, SAMPLE_ROWS)
			.map((row) => Array.from({ length: width }, (_, i) => quoteValue(row.cells[i] ?? '')))
	};
}

const titlesOf = (row: TableRow): string[] => {
	const titles = row.cells.map((cell, k) => (k === 0 ? cell.replace(COMMENT_LEADER, '') : cell).trim());
	if (COMMENT_LEADER.test(row.cells[0] ?? '') && titles[0] === '') titles.shift();
	return titles;
};

/** The header where a person has said which column is what; null where no line of the file has those titles. */
export function chosenHeader<Role extends string>(text: string, choice: ColumnChoice): Header<Role> | null {
	let rows: TableRow[];
	try {
		rows = splitTable(text, choice.delimiter);
	} catch {
		return null;
	}
	const columns: Partial<Record<Role, number>> = {};
	choice.roles.forEach((role, i) => role !== null && (columns[role as Role] ??= i));
	const names = choice.titles ?? choice.roles.map((role) => role ?? '');
	const said = plainTitles(names);
	const headerAt = choice.titles === null ? -1 : rows.slice(0, 60).findIndex((row) => plainTitles(titlesOf(row)) === said);
	if (choice.titles !== null && headerAt < 0) return null;
	const commented = COMMENT_LEADER.test(rows[headerAt]?.cells[0] ?? '');
	const header = { delimiter: choice.delimiter, rows, headerAt, columns, titles: [...names], commented };
	// Titles with blanks in them: the columns of characters say where each begins.
	return choice.delimiter === ' ' && headerAt >= 0
		? (fixedWidth(text, { ...header, titles: titlesOf(rows[headerAt]!) }, () => columns, []) ?? header)
		: header;
}

/** Titles as they are compared: how they are cut by blanks makes no difference. */
const plainTitles = (titles: readonly string[]): string => titles.join(' ').toLowerCase().replace(/\s+/g, ' ').trim();

/** Whether a choice of columns counts for a table: the same titles, or as many columns where neither has any. */
export function sameColumns(a: ColumnChoice, b: ColumnChoice): boolean {
	if (a.delimiter !== b.delimiter || (a.titles === null) !== (b.titles === null)) return false;
	return a.titles && b.titles ? plainTitles(a.titles) === plainTitles(b.titles) : a.roles.length === b.roles.length;
}

/** How a table is cut whose header nobody knows: by the delimiter that gives most rows the same number of cells. The line above them that is no row like them is taken for titles.
 * @param guess what the columns of the rows are likely to be; @param key the role that names a row
 * @returns null where nothing looks like a table of three columns or more, or of more than anybody would look through
 */
export function proposedColumns(
	text: string,
	guess: (rows: readonly (readonly string[])[]) => (string | null)[],
	key: string
): ColumnsSeen | null {
	let best: { delimiter: Delimiter; rows: TableRow[]; width: number } | null = null;
	for (const delimiter of DELIMITERS) {
		let rows: TableRow[];
		try {
			rows = splitTable(text, delimiter).filter((row) => row.cells.some((cell) => cell.trim() !== ''));
		} catch {
			continue;
		}
		const counts = new Map<number, number>();
		for (const row of rows.slice(0, 200)) counts.set(row.cells.length, (counts.get(row.cells.length) ?? 0) + 1);
		const [width, count] = [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [0, 0];
		const known = best?.rows.length ?? 0;
		if (width >= 3 && width <= MOST_COLUMNS && (count > known || (count === known && width > best!.width)))
			best = { delimiter, width, rows: rows.slice(0, 200).filter((row) => row.cells.length === width) };
	}
	if (!best) return null;
	const cells = best.rows.map((row) => row.cells);
	const roles = guess(cells.length > 1 ? cells.slice(1) : cells);
	// A first line whose key is none, or without any figure where no column looks like a key, is titles.
	const at = roles.indexOf(key);
	const isData = (row: readonly string[]) => (at >= 0 ? guess([row])[at] === key : row.some((cell) => /^[-+\d.,]+$/.test(cell.trim())));
	const titled = cells.length > 1 && !isData(cells[0]!);
	return {
		delimiter: best.delimiter,
		titles: titled ? titlesOf(best.rows[0]!) : null,
		roles,
		sample: cells.slice(titled ? 1 : 0, (titled ? 1 : 0) + SAMPLE_ROWS).map((row) => row.map((cell) => quoteValue(cell)))
	};
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
