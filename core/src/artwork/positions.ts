import { type Issue, quoteValue } from '../judgement/index.ts';
import { MM_PER, type LengthUnit } from '../units/index.ts';
import {
	askDecimal,
	chosenHeader,
	columnsSeen,
	DecimalEvidence,
	findHeader,
	openQuote,
	plainTitle,
	proposedColumns,
	readNumber,
	tornRow,
	type ColumnChoice,
	type ColumnsSeen,
	type DecimalSign,
	type TableRow
} from '../tables/index.ts';

export type Side = 'top' | 'bottom';

export interface PlacedRow {
	refDes: string;
	xMm: number;
	yMm: number;
	/** 0 to below 360, counter-clockwise. */
	rotationDeg: number;
	side: Side;
	value: string;
	packageName: string;
	kind: 'part' | 'fiducial' | 'tooling';
	line: number;
}

export interface PositionFile {
	rows: PlacedRow[];
	/** Unit of x and y as found, or null where the file does not say: then x and y are still in file units. */
	unit: LengthUnit | null;
	issues: Issue[];
	/** Titles, comments and footers that were passed over. */
	ignored: { line: number; text: string }[];
	/** What each column was taken for, or is proposed for where no header is known; null where there is no table. */
	columns: ColumnsSeen | null;
}

/** What a column of a position file can be. */
export const POSITION_ROLES = ['ref', 'x', 'y', 'rot', 'side', 'mirror', 'value', 'package'] as const;
type Role = (typeof POSITION_ROLES)[number];

const WORDS: Record<Role, readonly string[]> = {
	ref: ['ref', 'refdes', 'designator', 'reference', 'part', 'component', 'name', 'bauteil'],
	x: ['midx', 'xmid', 'centerx', 'centrex', 'xcenter', 'xcentre', 'posx', 'xcoord', 'locationx', 'xlocation', 'x'],
	y: ['midy', 'ymid', 'centery', 'centrey', 'ycenter', 'ycentre', 'posy', 'ycoord', 'locationy', 'ylocation', 'y'],
	rot: ['rot', 'rotation', 'angle', 'theta', 'orient', 'orientation', 'drehung'],
	side: [
		'side',
		'layer',
		'tb',
		't/b',
		'top/bottom',
		'topbottom',
		'top/bot',
		'topbot',
		'face',
		'boardside',
		'mountside',
		'mountingside',
		'placementside',
		'seite',
		'bestückungsseite'
	],
	mirror: ['mirror', 'mirrored', 'flip', 'flipped', 'gespiegelt'],
	value: ['value', 'val', 'comment', 'wert'],
	package: ['package', 'footprint', 'pattern', 'shape', 'decal', 'gehäuse']
};

const SIDES: Record<Side, readonly string[]> = {
	top: [
		...['t', 'top', 'toplayer', 'topside', 'topcopper', 'topcu', 'tcu', 'front', 'frontside', 'frontlayer', 'f', 'fcu', 'fpaste', 'upper'],
		...['component', 'componentside', 'cs', 'primary', 'primaryside', '1', 'oben', 'oberseite', 'dessus']
	],
	bottom: [
		...['b', 'bot', 'bottom', 'bottomlayer', 'bottomside', 'botlayer', 'botside', 'bottomcopper', 'bottomcu', 'botcu', 'bcu', 'bpaste'],
		...[
			'back',
			'backside',
			'backlayer',
			'lower',
			'solder',
			'solderside',
			'ss',
			'secondary',
			'secondaryside',
			'2',
			'unten',
			'unterseite',
			'dessous'
		]
	]
};

const UNIT_WORDS: Record<string, LengthUnit> = {
	mm: 'mm',
	millimeter: 'mm',
	millimeters: 'mm',
	millimetre: 'mm',
	millimetres: 'mm',
	mil: 'mil',
	mils: 'mil',
	thou: 'mil',
	in: 'inch',
	inch: 'inch',
	inches: 'inch',
	'"': 'inch',
	um: 'um',
	µm: 'um',
	μm: 'um'
};

function rolesOf(titles: readonly string[]): Partial<Record<Role, number>> {
	const plain = titles.map(plainTitle);
	const columns: Partial<Record<Role, number>> = {};
	for (const role of Object.keys(WORDS) as Role[])
		for (const word of WORDS[role]) {
			const at = plain.indexOf(word);
			if (at >= 0 && !Object.values(columns).includes(at)) {
				columns[role] = at;
				break;
			}
		}
	return columns;
}

const MIRRORED: Record<Side, RegExp> = { bottom: /^(y|yes|true|1|x|ja|mirror(ed)?|m)$/i, top: /^(n|no|false|0|nein|normal)$/i };

function unitInTitle(title: string): LengthUnit | null {
	const match = /[([]\s*([a-zµμ"]+)\s*[)\]]/i.exec(title) ?? /[\s_-](mm|mils?|inch|in)$/i.exec(title.trim());
	return match ? (UNIT_WORDS[match[1]!.toLowerCase()] ?? null) : null;
}

/** Reads a position (XY) file. A bad cell rejects its row with line, field and value; all other rows load.
 * @param text the decoded file
 * @param givenUnit the unit a person chose, where the file does not say
 * @param givenDecimal the decimal sign a person chose, where the file can be read both ways
 * @param givenSide the side a person chose, where no column says it: never guessed
 * @param chosen which column is what, where a person said it
 * @returns rows in file order with x, y in mm (in file units where `unit` is null)
 */
export function readPositions(
	text: string,
	givenUnit: LengthUnit | null = null,
	givenDecimal: DecimalSign | null = null,
	givenSide: Side | null = null,
	chosen: ColumnChoice | null = null
): PositionFile {
	const cut = openQuote(text);
	if (cut) return { rows: [], unit: null, ignored: [], issues: [cut], columns: null };
	const said = chosen && chosenHeader<Role>(text, chosen);
	const header = said ?? findHeader<Role>(text, rolesOf, NEEDED);
	const lacking = said ? NEEDED.filter((role) => said.columns[role] === undefined) : [];
	if (!header || lacking.length) {
		const first = text.split(/\r\n|\r|\n/).find((raw) => raw.trim() !== '') ?? '';
		return {
			rows: [],
			unit: null,
			ignored: [],
			columns: header ? columnsSeen(header, POSITION_ROLES) : proposedColumns(text, guessRoles, 'ref'),
			issues: [
				{
					severity: 'error',
					code: 'needs_mapping',
					line: 1,
					field: 'header',
					value: quoteValue(first),
					message: lacking.length
						? `No column is chosen for ${lacking.map((role) => NEEDED_WORDS[role]).join(', ')}. Choose it.`
						: 'No header line with designator, X and Y was found. Say which column is what, or add a line such as "Designator,X (mm),Y (mm),Rotation,Side".'
				}
			]
		};
	}
	const { columns, titles, rows } = header;
	const before = rows.slice(0, Math.max(0, header.headerAt));
	const seen = columnsSeen(header, POSITION_ROLES);
	const issues: Issue[] = [];
	const ignored = before.flatMap((row) => {
		const line = row.cells.join(' ').trim();
		return line ? [{ line: row.line, text: line }] : [];
	});
	const general = preambleUnit(before) ?? givenUnit ?? null;
	const [titleX, titleY] = [unitInTitle(titles[columns.x!] ?? ''), unitInTitle(titles[columns.y!] ?? '')];
	// One title that names a unit speaks for both, unless the other names its own.
	const units = { x: titleX ?? titleY ?? general, y: titleY ?? titleX ?? general };
	const data = rows.slice(header.headerAt + 1).filter((row) => {
		if (row.cells.every((c) => c.trim() === '')) return false;
		const cell = (role: Role) => row.cells[columns[role]!] ?? '';
		if (!isFooter(row, cell('ref').trim(), cell('y').trim())) return true;
		ignored.push({ line: row.line, text: row.cells.join(' ').trim() });
		return false;
	});
	const ask = (code: string, issue: { line: number; field: string; value: string; message: string }): PositionFile => ({
		rows: [],
		unit: units.x,
		issues: [{ severity: 'error', code, ...issue, value: quoteValue(issue.value) }],
		ignored,
		columns: seen
	});
	const evidence = new DecimalEvidence();
	for (const row of data)
		for (const role of ['x', 'y', 'rot'] as const)
			if (columns[role] !== undefined) evidence.add(titles[columns[role]]!, row.cells[columns[role]] ?? '', row.line);
	const decided = givenDecimal ? { sign: givenDecimal, ask: null } : evidence.decide(header.delimiter);
	if (decided.ask) return ask('ambiguous_decimal', askDecimal(decided.ask));
	const common = decided.sign;
	if (columns.side === undefined && columns.mirror === undefined && givenSide === null && data.length > 0)
		return ask('needs_side', {
			line: rows[header.headerAt]?.line ?? 1,
			field: 'side',
			value: titles.join(', '),
			message: 'No column says on which side a part is. Choose the side that the parts of this file are on.'
		});
	const rowsOut: PlacedRow[] = [];
	let cellUnit: LengthUnit | null = null;
	for (const row of data) {
		const cell = (role: Role) => (columns[role] === undefined ? '' : (row.cells[columns[role]] ?? '').trim());
		const refDes = cell('ref');
		const reject = (field: string, value: string, what: string) =>
			issues.push({
				severity: 'error',
				code: 'bad_cell',
				line: row.line,
				field,
				value: quoteValue(value),
				message: `Line ${row.line}, field ${field}: "${quoteValue(value)}" ${what}. Correct the cell; the other rows were read.`
			});
		const torn = tornRow(row.cells, titles.length);
		if (torn) {
			reject('row', row.cells.join(header.delimiter), `has ${torn}`);
			continue;
		}
		if (refDes === '') {
			reject('designator', refDes, 'is empty');
			continue;
		}
		const x = readNumber(cell('x'), common);
		const y = readNumber(cell('y'), common);
		const rotationText = cell('rot');
		const rotation = rotationText === '' ? { value: 0, unit: null } : readNumber(rotationText, common);
		if (!x || !y || !rotation) {
			if (!x) reject('X', cell('x'), 'is not a number');
			if (!y) reject('Y', cell('y'), 'is not a number');
			if (!rotation) reject('rotation', rotationText, 'is not a number');
			continue;
		}
		const side = columns.side !== undefined ? sideOf(cell('side')) : columns.mirror !== undefined ? mirrored(cell('mirror')) : givenSide;
		if (!side) {
			if (columns.side !== undefined) reject('side', cell('side'), 'is neither top nor bottom');
			else reject('mirror', cell('mirror'), 'is neither yes nor no');
			continue;
		}
		/** A unit in the cell outranks the file's. */
		const toMm = (cellValue: { value: number; unit: string | null }, unit: LengthUnit | null) => {
			const own = cellValue.unit ? UNIT_WORDS[cellValue.unit] : undefined;
			if (own) cellUnit = own;
			return cellValue.value * MM_PER[own ?? unit ?? 'mm'];
		};
		rowsOut.push({
			refDes,
			xMm: toMm(x, units.x),
			yMm: toMm(y, units.y),
			rotationDeg: (((rotation.value % 360) + 360) % 360) + 0,
			side,
			value: cell('value'),
			packageName: cell('package'),
			kind: /^(FID|FD)/i.test(refDes) ? 'fiducial' : /^(MH|TOOL)/i.test(refDes) ? 'tooling' : 'part',
			line: row.line
		});
	}
	issues.push(...duplicates(rowsOut));
	if (rowsOut.length === 0 && issues.length === 0)
		issues.push({
			severity: 'error',
			code: 'no_rows',
			line: data[0]?.line ?? 1,
			field: 'file',
			value: '',
			message: 'The header was found, but no row below it. Was the file cut short?'
		});
	return { rows: rowsOut, unit: units.x ?? cellUnit, issues, ignored, columns: seen };
}

const NEEDED = ['ref', 'x', 'y'] as const;
const NEEDED_WORDS = { ref: 'the designator', x: 'X', y: 'Y' };
const DESIGNATOR = /^[A-Z]{1,5}\d+[A-Z]?$/i;
const RIGHT_ANGLES = new Set([0, 45, 90, 135, 180, 225, 270, 315, 360]);

/** What the columns of rows without a known header look like: a proposal, never taken without a word. */
function guessRoles(rows: readonly (readonly string[])[]): (Role | null)[] {
	const width = rows[0]?.length ?? 0;
	const roles: (Role | null)[] = Array.from({ length: width }, () => null);
	const share = (i: number, is: (cell: string) => boolean) => rows.filter((row) => is((row[i] ?? '').trim())).length / rows.length;
	const number = (cell: string) => readNumber(cell, '.') ?? readNumber(cell, ',');
	const best = (role: Role, is: (cell: string) => boolean) => {
		const [at, most] = roles.reduce<[number, number]>(
			([a, m], taken, i) => (taken === null && share(i, is) > m ? [i, share(i, is)] : [a, m]),
			[-1, 0.6]
		);
		if (most > 0.6) roles[at] = role;
	};
	best('ref', (cell) => DESIGNATOR.test(cell));
	const figures = roles.flatMap((role, i) => (role === null && share(i, (cell) => number(cell) !== null) > 0.8 ? [i] : []));
	// Of three figures one is an angle: the one that stands at right angles most.
	const square = (i: number) => share(i, (cell) => RIGHT_ANGLES.has(Math.abs(number(cell)?.value ?? NaN)));
	const angle = figures.length > 2 ? figures.reduce((a, b) => (square(b) >= square(a) ? b : a)) : -1;
	if (angle >= 0) roles[angle] = 'rot';
	const [x, y] = figures.filter((i) => i !== angle);
	if (x !== undefined && y !== undefined) [roles[x], roles[y]] = ['x', 'y'];
	best('side', (cell) => number(cell) === null && sideOf(cell) !== null);
	return roles;
}

function isFooter(row: TableRow, refDes: string, y: string): boolean {
	if (/^(#|\/\/|!|%|\*)/.test(row.cells[0] ?? '')) return true;
	return /^(total|end|count|sum)\b/i.test(refDes) && (y === '' || row.cells.length < 4);
}

function preambleUnit(rows: readonly TableRow[]): LengthUnit | null {
	for (const row of rows) {
		const match = /units?\s*(?:used)?[:=,\s]+([a-z]+)/i.exec(row.cells.join(','));
		const unit = match ? UNIT_WORDS[match[1]!.toLowerCase()] : undefined;
		if (unit) return unit;
	}
	return null;
}

function sideOf(cell: string): Side | null {
	const word = cell.toLowerCase().replace(/[^a-z0-9]/g, '');
	if (SIDES.top.includes(word)) return 'top';
	if (SIDES.bottom.includes(word)) return 'bottom';
	return null;
}

function mirrored(cell: string): Side | null {
	return MIRRORED.bottom.test(cell) ? 'bottom' : MIRRORED.top.test(cell) ? 'top' : null;
}

function duplicates(rows: readonly PlacedRow[]): Issue[] {
	const first = new Map<string, number>();
	return rows.flatMap((row): Issue[] => {
		const before = first.get(row.refDes);
		if (before === undefined) {
			first.set(row.refDes, row.line);
			return [];
		}
		return [
			{
				severity: 'error',
				code: 'duplicate_ref',
				line: row.line,
				field: 'designator',
				value: row.refDes,
				message: `${row.refDes} stands on line ${before} and again on line ${row.line}. Keep one of them.`
			}
		];
	});
}
