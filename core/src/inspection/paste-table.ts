import { decimalSign, findHeader, openQuote, readNumber, splitTable } from '../tables/index.ts';
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
 */
export function readPasteTable(text: string, mapping: PasteMapping = {}, foilUm = 100): PasteTable {
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
	if (!header) return refused(firstLines, open);
	const { delimiter, columns } = header;
	const headerLine = header.rows[header.headerAt]!.line;
	// Cells without quotes are cut at the delimiter: ten times faster than a parser that looks for them.
	const rows = plain.includes('"') ? splitTable(plain, delimiter) : null;
	const lines = rows ? [] : plain.split(/\r\n|\n|\r/);
	const count = rows?.length ?? lines.length;
	const cellsAt = (i: number): string[] => rows?.[i]!.cells ?? lines[i]!.split(delimiter);
	const lineAt = (i: number): number => rows?.[i]!.line ?? i + 1;
	const from = rows ? rows.findIndex((r) => r.line === headerLine) + 1 : headerLine;
	const sample: string[] = [];
	for (let i = from; i < Math.min(count, from + 400); i++)
		sample.push(
			...cellsAt(i)
				.slice(0, 20)
				.filter((c) => /\d[.,]\d/.test(c))
		);
	const sign = delimiter === ',' ? '.' : decimalSign(sample);
	const issues: Issue[] = [];
	if (sign === 'ambiguous')
		return {
			...refused(firstLines, null),
			asks: {
				severity: 'error',
				code: 'decimal_sign',
				line: headerLine,
				field: 'decimal',
				value: quoteValue(sample[0] ?? ''),
				message: 'A comma in these numbers could be a decimal sign or a thousands sign. Export with decimal points.'
			}
		};
	return readRows(count, from, cellsAt, lineAt, columns, sign, header.titles, mapping, foilUm, issues);
}

function readRows(
	count: number,
	from: number,
	cellsAt: (i: number) => string[],
	lineAt: (i: number) => number,
	columns: Partial<Record<PasteColumn, number>>,
	sign: '.' | ',',
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
	const fields = (Object.keys(VALUE_OF) as (keyof typeof VALUE_OF)[]).flatMap((c) =>
		columns[c] === undefined ? [] : [{ c, at: columns[c], ...VALUE_OF[c] }]
	);
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
				message: `Line ${lineAt(at)}, ${field}: ${message}`
			});
	};
	for (let i = from; i < count; i++) {
		const cells = cellsAt(i);
		if (cells.length === 1 && cells[0]!.trim() === '') continue;
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

function refused(head: string, open: Issue | null): PasteTable {
	const first = head.split('\n')[0] ?? '';
	const titles = first.split(/[\t;,|]/).map((t) => t.trim());
	const empty = () => new Float32Array();
	const issue: Issue = open ?? {
		severity: 'error',
		code: 'no_header',
		line: 1,
		field: 'header',
		value: quoteValue(first),
		message: `Line 1: columns are missing. Needed are ${NEEDED.join(', ')}; say which column is which.`
	};
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
