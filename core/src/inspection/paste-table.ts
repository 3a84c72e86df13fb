import {
	askDecimal,
	DecimalEvidence,
	findHeader,
	headerDelimiter,
	openQuote,
	readNumber,
	splitTable,
	tornRow,
	type DecimalSign
} from '../tables/index.ts';
import { quoteValue, type Issue } from '../judgement/index.ts';

export const PASTE_COLUMNS = [
	'panel_no',
	'pad_id',
	'volume_pct',
	'height_um',
	'area_pct',
	'offset_x_um',
	'offset_y_um',
	'peak_height_um',
	'bridge'
] as const;
export type PasteColumn = (typeof PASTE_COLUMNS)[number];
const NEEDED: readonly PasteColumn[] = ['panel_no', 'pad_id', 'volume_pct', 'height_um', 'area_pct', 'offset_x_um', 'offset_y_um'];

/** What each column is called on a page. */
export const PASTE_COLUMN_NAMES: Readonly<Record<PasteColumn, string>> = {
	panel_no: 'panel',
	pad_id: 'pad',
	volume_pct: 'volume, %',
	height_um: 'height, µm',
	area_pct: 'area, %',
	offset_x_um: 'offset in x, µm',
	offset_y_um: 'offset in y, µm',
	peak_height_um: 'highest point, µm',
	bridge: 'bridge'
};

/** Title of the column that holds each quantity; confirmed once for an inspection unit and remembered. */
export type PasteMapping = Partial<Record<PasteColumn, string>>;

export interface PasteTable {
	/** Column that each quantity is read from. */
	mapping: PasteMapping;
	/** Every title of the file, for the mapping step. */
	titles: string[];
	/** Row by row; NaN is a blank cell. */
	line: Int32Array;
	panel: string[];
	pad: string[];
	values: Record<'volumePct' | 'heightUm' | 'areaPct' | 'offsetXUm' | 'offsetYUm' | 'peakHeightUm', Float32Array>;
	bridge: Uint8Array;
	blanks: number;
	issues: Issue[];
	/** Nothing may be kept before somebody answered. */
	asks: Issue | null;
}

type ValueName = keyof PasteTable['values'];
const VALUE_OF: Record<Exclude<PasteColumn, 'panel_no' | 'pad_id' | 'bridge'>, { name: ValueName; low: number; high: number }> = {
	volume_pct: { name: 'volumePct', low: 0, high: 3000 },
	height_um: { name: 'heightUm', low: 0, high: 3000 },
	area_pct: { name: 'areaPct', low: 0, high: 3000 },
	offset_x_um: { name: 'offsetXUm', low: -30_000, high: 30_000 },
	offset_y_um: { name: 'offsetYUm', low: -30_000, high: 30_000 },
	peak_height_um: { name: 'peakHeightUm', low: 0, high: 3000 }
};
const MOST_ISSUES = 200;

/** Reads paste inspection results from a table. Byte order mark, any line ends, any order of rows, missing rows and blank cells are taken (blank = missing, counted);
 * a bad row is left out and named with line, field and value, the good ones are kept; a panel and pad that come twice are reported, never averaged.
 * @param mapping from this unit's last import; columns of the neutral names are found by themselves
 * @param foilUm heights near a thousandth of it are asked about: millimetres?
 * @param decimal the decimal sign that a person chose, where the file can be read both ways
 */
export function readPasteTable(text: string, mapping: PasteMapping = {}, foilUm = 100, decimal: DecimalSign | null = null): PasteTable {
	const plain = text.replace(/^\ufeff/, '');
	const open = plain.includes('"') ? openQuote(plain) : null;
	const firstLines = plain.split(/\r\n|\n|\r/, 60).join('\n');
	const titleOf = (c: PasteColumn) => (mapping[c] ?? c).trim().toLowerCase();
	const header = open
		? null
		: findHeader<PasteColumn>(
				firstLines,
				(titles) => {
					const lower = titles.map((t) => t.trim().toLowerCase());
					return Object.fromEntries(PASTE_COLUMNS.map((c) => [c, lower.indexOf(titleOf(c))]).filter(([, i]) => (i as number) >= 0));
				},
				NEEDED
			);
	if (!header) return refused(firstLines, open ?? missingColumns(firstLines, titleOf));
	const { delimiter, columns } = header;
	const headerLine = header.rows[header.headerAt]!.line;
	const torn = openQuote(plain, delimiter);
	if (torn) return refused(firstLines, torn);
	// Cells without quotes are cut at the delimiter: ten times faster than a parser that looks for them.
	const rows = plain.includes('"') ? splitTable(plain, delimiter) : null;
	const lines = rows ? [] : plain.split(/\r\n|\n|\r/);
	const count = rows?.length ?? lines.length;
	const cellsAt = (i: number): string[] => rows?.[i]!.cells ?? lines[i]!.split(delimiter);
	const lineAt = (i: number): number => rows?.[i]!.line ?? i + 1;
	const from = rows ? rows.findIndex((r) => r.line === headerLine) + 1 : headerLine;
	// Where no cell can hold a comma there is nothing to decide.
	const evidence = new DecimalEvidence();
	if (decimal === null && plain.includes(',') && (delimiter !== ',' || rows))
		for (let i = from; i < count; i++) {
			const cells = cellsAt(i);
			for (const { c, at } of valueFields(columns)) evidence.add(PASTE_COLUMN_NAMES[c], cells[at] ?? '', lineAt(i));
		}
	const decided = decimal ? { sign: decimal, ask: null } : evidence.decide(delimiter);
	if (decided.ask) {
		const { line, field, value, message } = askDecimal(decided.ask);
		const asks: Issue = { severity: 'error', code: 'decimal_sign', line, field, value: quoteValue(value), message };
		return { ...refused(firstLines, asks), titles: header.titles, asks };
	}
	const issues: Issue[] = [];
	return readRows(count, from, cellsAt, lineAt, columns, decided.sign, header.titles, mapping, foilUm, issues);
}

const valueFields = (columns: Partial<Record<PasteColumn, number>>) =>
	(Object.keys(VALUE_OF) as (keyof typeof VALUE_OF)[]).flatMap((c) =>
		columns[c] === undefined ? [] : [{ c, at: columns[c], ...VALUE_OF[c] }]
	);

function readRows(
	count: number,
	from: number,
	cellsAt: (i: number) => string[],
	lineAt: (i: number) => number,
	columns: Partial<Record<PasteColumn, number>>,
	sign: DecimalSign,
	titles: string[],
	mapping: PasteMapping,
	foilUm: number,
	issues: Issue[]
): PasteTable {
	const size = Math.max(0, count - from);
	const line = new Int32Array(size);
	const panel: string[] = [];
	const pad: string[] = [];
	const bridge = new Uint8Array(size);
	const values = Object.fromEntries(
		Object.values(VALUE_OF).map(({ name }) => [name, new Float32Array(size).fill(NaN)])
	) as PasteTable['values'];
	const seen = new Map<string, Set<string>>();
	const fields = valueFields(columns);
	const [atPanel, atPad, atBridge] = [columns.panel_no!, columns.pad_id!, columns.bridge];
	let [k, blanks, more] = [0, 0, 0];
	const say = (at: number, code: string, field: string, value: string, message: string) => {
		if (issues.length >= MOST_ISSUES) more++;
		else
			issues.push({
				severity: 'error',
				code,
				line: lineAt(at),
				field,
				value: quoteValue(value),
				message: `Line ${lineAt(at)}, ${PASTE_COLUMN_NAMES[field as PasteColumn] ?? field}: ${message}`
			});
	};
	for (let i = from; i < count; i++) {
		const cells = cellsAt(i);
		if (cells.length === 1 && cells[0]!.trim() === '') continue;
		if (cells.length > titles.length) {
			const torn = tornRow(cells, titles.length);
			if (torn) {
				say(i, 'torn_row', 'row', cells.join(' '), `${torn}. The row is left out.`);
				continue;
			}
		}
		const who = (cells[atPanel] ?? '').trim();
		const which = (cells[atPad] ?? '').trim();
		if (who === '' || which === '') {
			say(i, 'no_identity', who === '' ? 'panel_no' : 'pad_id', '', 'is empty: whose reading is it? The row is left out.');
			continue;
		}
		let bad = false;
		for (const { c, at, name, low, high } of fields) {
			const cell = cells[at] ?? '';
			if (cell === '' || cell.trim() === '') {
				values[name][k] = NaN;
				blanks++;
				continue;
			}
			const quick = sign === '.' ? Number(cell) : NaN;
			const value = quick === quick ? quick : (readNumber(cell, sign)?.value ?? NaN);
			if (!(value >= low && value <= high)) {
				say(
					i,
					value === value ? 'out_of_range' : 'not_a_number',
					c,
					cell,
					value === value
						? `${cell.trim()} is outside ${low} to ${high}. The row is left out.`
						: `"${cell.trim()}" is not a number. The row is left out.`
				);
				bad = true;
				break;
			}
			values[name][k] = value;
		}
		if (bad) continue;
		let own = seen.get(who);
		if (!own) seen.set(who, (own = new Set()));
		if (own.has(which)) {
			say(i, 'twice', 'pad_id', which, `panel ${who} has pad ${which} already. The first one is kept; readings are never averaged.`);
			continue;
		}
		own.add(which);
		line[k] = lineAt(i);
		panel.push(who);
		pad.push(which);
		bridge[k] = atBridge !== undefined && /^(1|true|yes|y)$/i.test((cells[atBridge] ?? '').trim()) ? 1 : 0;
		k++;
	}
	if (more > 0)
		issues.push({
			severity: 'error',
			code: 'more',
			field: 'file',
			value: String(more),
			message: `${more} more rows are left out for such reasons.`
		});
	const cut = Object.fromEntries(Object.entries(values).map(([name, list]) => [name, list.slice(0, k)])) as PasteTable['values'];
	return {
		mapping,
		titles,
		line: line.slice(0, k),
		panel,
		pad,
		values: cut,
		bridge: bridge.slice(0, k),
		blanks,
		issues,
		asks: heightUnit(cut.heightUm, foilUm)
	};
}

/** Heights of about 0.1 against a foil of 100 µm are millimetres. */
function heightUnit(heights: Float32Array, foilUm: number): Issue | null {
	const known = heights.filter((v) => v === v).sort();
	const middle = known[known.length >> 1];
	if (middle === undefined || middle <= 0 || middle > foilUm / 50) return null;
	return {
		severity: 'error',
		code: 'height_unit',
		field: 'height_um',
		value: String(Number(middle.toPrecision(3))),
		message: `Heights are around ${Number(middle.toPrecision(3))} against a foil of ${foilUm} µm: are they in mm? Choose the unit.`
	};
}

/** Which of the needed columns no title names, and which titles are left that it may be. */
function missingColumns(head: string, titleOf: (c: PasteColumn) => string): Issue {
	const rows = head
		.split('\n')
		.map((raw, i) => ({ line: i + 1, raw, titles: raw.split(headerDelimiter(raw)).map((t) => t.trim().replace(/^"(.*)"$/, '$1')) }));
	const known = ({ titles }: (typeof rows)[number]) => PASTE_COLUMNS.filter((c) => titles.some((t) => t.toLowerCase() === titleOf(c)));
	const best = rows.reduce((a, b) => (known(b).length > known(a).length ? b : a));
	const found = known(best);
	const missing = NEEDED.filter((c) => !found.includes(c));
	const left = best.titles.filter((t) => t !== '' && !found.some((c) => t.toLowerCase() === titleOf(c)));
	const names = missing.map((c) => `${PASTE_COLUMN_NAMES[c]} ("${titleOf(c)}")`).join('; ');
	const may = left.length ? ` It may be one of these: ${left.slice(0, 12).join(', ')}; say which column is which.` : ' Export it too.';
	return {
		severity: 'error',
		code: 'no_header',
		line: best.line,
		field: missing.length === 1 ? missing[0]! : 'header',
		value: quoteValue(best.raw),
		message: `Line ${best.line}: ${missing.length === 1 ? 'one column is' : `${missing.length} columns are`} missing: ${names}.${may}`
	};
}

function refused(head: string, issue: Issue): PasteTable {
	const first = head.split('\n')[0] ?? '';
	const titles = first.split(/[\t;,|]/).map((t) => t.trim());
	const empty = () => new Float32Array();
	return {
		mapping: {},
		titles,
		line: new Int32Array(),
		panel: [],
		pad: [],
		values: { volumePct: empty(), heightUm: empty(), areaPct: empty(), offsetXUm: empty(), offsetYUm: empty(), peakHeightUm: empty() },
		bridge: new Uint8Array(),
		blanks: 0,
		issues: [issue],
		asks: null
	};
}
