import { askDecimal, csvCell, DecimalEvidence, findHeader, openQuote, readNumber, tornRow, type DecimalSign } from '../tables/index.ts';
import { quoteValue, type Issue, type Verdict } from '../judgement/index.ts';
import { median } from '../numerics/index.ts';
import { measureShape, type TransferModel } from '../stencil/index.ts';
import { readPasteTable, type PasteMapping, type PasteTable } from './paste-table.ts';
import {
	causeText,
	findSignatures,
	judgeSignatures,
	type CauseText,
	type Signature,
	type SignaturePad,
	type SignaturePanel,
	type SignatureReport,
	type SignatureRun
} from './causes/index.ts';

/** A pad as a table gives it; measures in the units of its column's title. */
export interface TablePad extends SignaturePad {
	shape: string;
	sizeXMm: number;
	sizeYMm: number;
	foilUm: number;
	areaMm2: number;
}

const PAD_COLUMNS = [
	'pad_id',
	'refdes',
	'package_class',
	'x_mm',
	'y_mm',
	'shape',
	'size_x_mm',
	'size_y_mm',
	'foil_um',
	'area_mm2',
	'area_ratio'
] as const;
const PANEL_COLUMNS = ['panel_no', 't_min', 'stroke', 'prints_since_wipe', 'prints_since_topup', 'minutes_since_previous_print'] as const;

type StudyColumn = (typeof PAD_COLUMNS)[number] | (typeof PANEL_COLUMNS)[number];

/** What each column is called where people read of it; a table may use either name as its title. */
export const STUDY_TITLES: Record<StudyColumn, string> = {
	pad_id: 'pad',
	refdes: 'reference',
	package_class: 'class',
	x_mm: 'X, mm',
	y_mm: 'Y, mm',
	shape: 'shape',
	size_x_mm: 'size in X, mm',
	size_y_mm: 'size in Y, mm',
	foil_um: 'foil, µm',
	area_mm2: 'area, mm²',
	area_ratio: 'area ratio',
	panel_no: 'panel',
	t_min: 'time, min',
	stroke: 'stroke',
	prints_since_wipe: 'prints since wipe',
	prints_since_topup: 'prints since top-up',
	minutes_since_previous_print: 'minutes since the previous print'
};
/** Columns that a table of pads and one of panels cannot do without. */
export const NEEDED_PAD_COLUMNS = ['pad_id', 'package_class', 'x_mm', 'y_mm', 'size_x_mm', 'size_y_mm', 'foil_um'] as const;
export const NEEDED_PANEL_COLUMNS = ['panel_no', 't_min', 'stroke', 'prints_since_wipe'] as const;

const plainTitle = (title: string) => title.trim().toLowerCase().replace(/\s+/g, ' ');
const sayColumn = (column: string) => (STUDY_TITLES as Record<string, string>)[column] ?? column;

/** Limits of a column's numbers; texts have none. */
const RANGE: Partial<Record<(typeof PAD_COLUMNS)[number] | (typeof PANEL_COLUMNS)[number], readonly [number, number]>> = {
	x_mm: [-1000, 1000],
	y_mm: [-1000, 1000],
	size_x_mm: [0.05, 20],
	size_y_mm: [0.05, 20],
	foil_um: [30, 300],
	area_mm2: [0.001, 400],
	area_ratio: [0.05, 50],
	t_min: [0, 100_000],
	prints_since_wipe: [0, 100_000],
	prints_since_topup: [0, 100_000],
	minutes_since_previous_print: [0, 100_000]
};

interface Row<C extends string> {
	line: number;
	text: Record<C, string>;
	/** null where the cell is blank. */
	number: Partial<Record<C, number | null>>;
}

/** Rows of a table with known titles, in any order and with any more columns. A row with a bad cell is left out and named. */
function readRows<C extends string>(
	table: string,
	text: string,
	columns: readonly C[],
	needed: readonly C[],
	decimal: DecimalSign | null
): { rows: Row<C>[]; issues: Issue[] } {
	const plain = text.replace(/^\ufeff/, '');
	const open = openQuote(plain);
	const header = open
		? null
		: findHeader<C>(
				plain,
				(titles) => {
					const lower = titles.map(plainTitle);
					return Object.fromEntries(
						columns.map((c) => [c, lower.findIndex((t) => t === c || t === plainTitle(sayColumn(c)))]).filter(([, i]) => (i as number) >= 0)
					) as Partial<Record<C, number>>;
				},
				needed
			);
	if (!header) {
		const message = `${table}, line 1: columns are missing. Needed are: ${needed.map(sayColumn).join('; ')}.`;
		return { rows: [], issues: [open ?? { severity: 'error', code: 'no_header', line: 1, field: 'header', value: '', message }] };
	}
	const body = header.rows.slice(header.headerAt + 1).filter((r) => r.cells.some((c) => c !== ''));
	const evidence = new DecimalEvidence();
	for (const { line, cells } of body)
		for (const c of columns)
			if (c in RANGE && header.columns[c] !== undefined) evidence.add(`${table}, ${sayColumn(c)}`, cells[header.columns[c]] ?? '', line);
	const decided = decimal ? { sign: decimal, ask: null } : evidence.decide(header.delimiter);
	if (decided.ask) return { rows: [], issues: [{ severity: 'error', code: 'decimal_sign', ...askDecimal(decided.ask) }] };
	const issues: Issue[] = [];
	const rows = body.flatMap(({ line, cells }): Row<C>[] => {
		const torn = tornRow(cells, header.titles.length);
		if (torn) {
			issues.push(bad(table, line, 'row', cells.join(' '), `${torn}. The row is left out.`));
			return [];
		}
		const row: Row<C> = { line, text: {} as Row<C>['text'], number: {} };
		for (const c of columns) {
			const cell = header.columns[c] === undefined ? '' : (cells[header.columns[c]] ?? '').trim();
			row.text[c] = cell;
			const range = (RANGE as Partial<Record<C, readonly [number, number]>>)[c];
			if (!range) {
				if (cell !== '' || !needed.includes(c)) continue;
				issues.push(bad(table, line, c, cell, 'is empty. The row is left out.'));
				return [];
			}
			const value = cell === '' ? null : (readNumber(cell, decided.sign)?.value ?? NaN);
			if (value === null ? needed.includes(c) : !(value >= range[0] && value <= range[1])) {
				const why =
					value === null ? 'is empty' : Number.isNaN(value) ? `"${cell}" is not a number` : `${cell} is outside ${range[0]} to ${range[1]}`;
				issues.push(bad(table, line, c, cell, `${why}. The row is left out.`));
				return [];
			}
			row.number[c] = value;
		}
		return [row];
	});
	return { rows, issues };
}

function bad(table: string, line: number, field: string, value: string, message: string): Issue {
	return {
		severity: 'error',
		code: 'bad_cell',
		line,
		field,
		value: quoteValue(value),
		message: `${table}, line ${line}, ${sayColumn(field)}: ${message}`
	};
}

/** The first of each name; what comes again is named. */
function unique<T extends { line: number }>(
	table: string,
	field: string,
	list: readonly T[],
	nameOf: (t: T) => string,
	issues: Issue[]
): T[] {
	const seen = new Set<string>();
	return list.filter((t) => {
		const name = nameOf(t);
		if (!seen.has(name)) return seen.add(name);
		issues.push(bad(table, t.line, field, name, `${name} stands here twice. The first one is kept.`));
		return false;
	});
}

/** Pads of a panel. Where the area ratio is blank it follows from the shape (rectangle, square, circle or oblong), its sizes and the foil. */
export function readPadTable(text: string, decimal: DecimalSign | null = null): { pads: TablePad[]; issues: Issue[] } {
	const { rows, issues } = readRows('Pads', text, PAD_COLUMNS, NEEDED_PAD_COLUMNS, decimal);
	const pads = unique('Pads', 'pad_id', rows, (r) => r.text.pad_id, issues).flatMap(({ line, text: t, number: n }): TablePad[] => {
		const [sizeXMm, sizeYMm, foilUm] = [n.size_x_mm!, n.size_y_mm!, n.foil_um!];
		const shape = (t.shape || 'rectangle').toLowerCase();
		const kind = shape === 'circle' ? 'oblong' : shape === 'square' ? 'rectangle' : shape;
		const plain = kind === 'oblong' || kind === 'rectangle' ? measureShape({ kind, lengthMm: sizeXMm, widthMm: sizeYMm }, t.pad_id) : null;
		const areaMm2 = n.area_mm2 ?? plain?.areaMm2;
		const areaRatio = n.area_ratio ?? (plain && (1000 * plain.areaMm2) / (plain.perimeterMm * foilUm));
		if (areaMm2 === undefined || areaRatio === null) {
			const field = areaMm2 === undefined ? 'area_mm2' : 'area_ratio';
			issues.push(bad('Pads', line, field, '', `is empty, and a ${shape} does not tell it. The row is left out.`));
			return [];
		}
		return [
			{
				name: t.pad_id,
				refDes: t.refdes || null,
				padClass: t.package_class,
				xMm: n.x_mm!,
				yMm: n.y_mm!,
				shape,
				sizeXMm,
				sizeYMm,
				foilUm,
				areaMm2,
				areaRatio,
				minSideMm: Math.min(sizeXMm, sizeYMm)
			}
		];
	});
	return { pads, issues };
}

/** How each panel was printed, in the order of time. */
export function readPanelTable(text: string, decimal: DecimalSign | null = null): { panels: SignaturePanel[]; issues: Issue[] } {
	const { rows, issues } = readRows('Panels', text, PANEL_COLUMNS, NEEDED_PANEL_COLUMNS, decimal);
	const panels = unique('Panels', 'panel_no', rows, (r) => r.text.panel_no, issues)
		.map(({ text: t, number: n }) => ({
			serial: t.panel_no,
			tMin: n.t_min!,
			stroke: t.stroke.toUpperCase(),
			printsSinceWipe: n.prints_since_wipe!,
			printsSinceTopup: n.prints_since_topup ?? 0,
			minutesSincePrevious: n.minutes_since_previous_print ?? 0
		}))
		.sort((a, b) => a.tMin - b.tMin);
	return { panels, issues };
}

export interface PasteStudy {
	/** What the signatures are read from; null where a table gives nothing. */
	run: SignatureRun | null;
	issues: Issue[];
	/** Nothing is worked out before somebody answered. */
	asks: Issue | null;
	/** Readings of the panels and pads that are missing. */
	missing: number;
}

/** Puts the three tables of a run together: pads, how its panels were printed, and their readings. What has no match is named; a missing reading stays missing.
 * @param heightUnit answers the question that heights in millimetres raise
 * @param strokeAxis along which the blade runs
 * @param decimal the decimal sign of all three, where a person chose it
 */
export function pasteStudy(
	texts: { pads: string; panels: string; readings: string },
	mapping: PasteMapping = {},
	heightUnit: 'um' | 'mm' | null = null,
	strokeAxis: 'x' | 'y' = 'y',
	decimal: DecimalSign | null = null
): PasteStudy {
	const { pads, issues: ofPads } = readPadTable(texts.pads, decimal);
	const { panels, issues: ofPanels } = readPanelTable(texts.panels, decimal);
	const foilUm = pads.length ? median(pads.map((p) => p.foilUm)) : 100;
	const table = readPasteTable(texts.readings, mapping, foilUm, decimal);
	const issues = [...ofPads, ...ofPanels, ...table.issues];
	const undecided = [...ofPads, ...ofPanels].find((issue) => issue.code === 'decimal_sign') ?? null;
	const asks = undecided ?? (heightUnit === null || table.asks?.code !== 'height_unit' ? table.asks : null);
	if (pads.length === 0 || panels.length === 0 || table.pad.length === 0 || asks) return { run: null, issues, asks, missing: 0 };
	const values = blank(pads.length * panels.length);
	// Without such a column nothing is known of bridges: that is not none.
	const flagged = table.titles.some((t) => t.trim().toLowerCase() === (mapping.bridge ?? 'bridge').trim().toLowerCase());
	const bridges = panels.map(() => 0);
	const padAt = new Map(pads.map((p, i) => [p.name, i]));
	const panelAt = new Map(panels.map((p, i) => [p.serial, i]));
	const strangers = new Map<string, Issue>();
	const peaks = table.values.peakHeightUm.some((v) => v === v) ? new Float32Array(values.volumePct.length).fill(NaN) : null;
	table.pad.forEach((name, row) => {
		const [p, m] = [padAt.get(name), panelAt.get(table.panel[row]!)];
		if (p === undefined || m === undefined) {
			const [field, value, where] = p === undefined ? ['pad_id', name, 'pads'] : ['panel_no', table.panel[row]!, 'panels'];
			const key = `${field} ${value}`;
			if (!strangers.has(key))
				strangers.set(key, bad('Readings', table.line[row]!, field!, value!, `${value} is not in the table of ${where}.`));
			return;
		}
		const at = m * pads.length + p;
		take(values, table, row, at, foilUm / pads[p]!.foilUm, heightUnit === 'mm' ? 1000 : 1);
		if (peaks) peaks[at] = table.values.peakHeightUm[row]! * (heightUnit === 'mm' ? 1000 : 1) * (foilUm / pads[p]!.foilUm);
		bridges[m]! += table.bridge[row]!;
	});
	issues.push(...[...strangers.values()].slice(0, 50));
	const missing = values.volumePct.reduce((n, v) => n + (v === v ? 0 : 1), 0);
	return {
		run: { pads, panels, ...values, ...(peaks ? { peakHeightUm: peaks } : {}), ...(flagged ? { bridges } : {}), foilUm, strokeAxis },
		issues,
		asks: null,
		missing
	};
}

export interface StudiedCauses extends Omit<PasteStudy, 'run'> {
	panels: number;
	pads: number;
	/** null where nothing could be worked out. */
	verdict: Verdict | null;
	signatures: (Signature & CauseText)[];
	notJudged: SignatureReport['notJudged'];
}

/** The causes in a run that is given as three tables, judged against a transfer curve. */
export function studyCauses(
	texts: Parameters<typeof pasteStudy>[0],
	{ mapping = {}, heightUnit = null, strokeAxis = 'y', decimal = null, model }: StudyOptions = {}
): StudiedCauses {
	const { run, ...about } = pasteStudy(texts, mapping, heightUnit, strokeAxis, decimal);
	const report = run && findSignatures(run, model);
	return {
		...about,
		panels: run?.panels.length ?? 0,
		pads: run?.pads.length ?? 0,
		verdict: report && judgeSignatures(report),
		signatures: report?.signatures.map((s) => ({ ...s, ...causeText(s.code) })) ?? [],
		notJudged: report?.notJudged ?? []
	};
}

export interface StudyOptions {
	/** Titles of the readings' columns, where they are not the neutral ones. */
	mapping?: PasteMapping;
	/** Answers the question that heights in millimetres raise. */
	heightUnit?: 'um' | 'mm' | null;
	/** Along which the blade runs. */
	strokeAxis?: 'x' | 'y';
	model?: TransferModel;
	/** The decimal sign of the tables, where a person chose it. */
	decimal?: DecimalSign | null;
}

const KEYS = ['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm'] as const;
type Readings = Record<(typeof KEYS)[number], Float32Array>;

function blank(n: number): Readings {
	return Object.fromEntries(KEYS.map((key) => [key, new Float32Array(n).fill(NaN)])) as Readings;
}

/** On a stepped foil each height is brought to the run's foil: it is judged as a share of its own. */
function take(values: Readings, table: PasteTable, row: number, at: number, ofFoil: number, toUm: number): void {
	for (const key of KEYS) values[key][at] = table.values[key][row]! * (key === 'heightUm' ? ofFoil * toUm : 1);
}

const csv = (head: readonly string[], rows: Iterable<readonly (string | number)[]>) => {
	const lines = [head.join(',')];
	for (const row of rows) lines.push(row.map(csvCell).join(','));
	return `${lines.join('\n')}\n`;
};
/** A name without commas needs no quotes: large tables are read ten times faster without. */
const named = (pad: TablePad) => pad.name.replaceAll(',', '');
const short = (v: number, digits = 4) => Number(v.toFixed(digits));

/** The three tables of a run: what `pasteStudy` reads.
 * @param bridgedPads of each panel, by index
 */
export function writeStudy(
	run: Omit<SignatureRun, 'pads'> & { pads: readonly TablePad[] },
	bridgedPads: readonly (readonly number[])[] = []
): { pads: string; panels: string; readings: string } {
	const { pads, panels } = run;
	function* readings() {
		for (let m = 0; m < panels.length; m++) {
			const bridged = new Set(bridgedPads[m]);
			for (let p = 0; p < pads.length; p++) {
				const at = m * pads.length + p;
				if (Number.isNaN(run.volumePct[at]!)) continue;
				yield [
					panels[m]!.serial,
					named(pads[p]!),
					...KEYS.map((key) => short(run[key][at]!, 1)),
					run.peakHeightUm ? short(run.peakHeightUm[at]!, 1) : '',
					bridged.has(p) ? 1 : 0
				];
			}
		}
	}
	return {
		pads: csv(
			PAD_COLUMNS,
			pads.map((p) => [
				named(p),
				p.refDes ?? '',
				p.padClass,
				short(p.xMm),
				short(p.yMm),
				p.shape,
				short(p.sizeXMm),
				short(p.sizeYMm),
				p.foilUm,
				short(p.areaMm2, 6),
				short(p.areaRatio)
			])
		),
		panels: csv(
			PANEL_COLUMNS,
			panels.map((p) => [p.serial, short(p.tMin, 2), p.stroke, p.printsSinceWipe, p.printsSinceTopup, short(p.minutesSincePrevious, 2)])
		),
		readings: csv(
			['panel_no', 'pad_id', 'volume_pct', 'height_um', 'area_pct', 'offset_x_um', 'offset_y_um', 'peak_height_um', 'bridge'],
			readings()
		)
	};
}
