import { type Issue, quoteValue } from '../judgement/index.ts';
import { MM_PER, type LengthUnit } from '../units/index.ts';
import { decimalSign, findHeader, openQuote, plainTitle, readNumber, type TableRow } from '../tables/index.ts';

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
}

type Role = 'ref' | 'x' | 'y' | 'rot' | 'side' | 'value' | 'package';

const WORDS: Record<Role, readonly string[]> = {
	ref: ['ref', 'refdes', 'designator', 'reference', 'part', 'component', 'name', 'bauteil'],
	x: ['midx', 'xmid', 'centerx', 'centrex', 'xcenter', 'xcentre', 'posx', 'xcoord', 'locationx', 'xlocation', 'x'],
	y: ['midy', 'ymid', 'centery', 'centrey', 'ycenter', 'ycentre', 'posy', 'ycoord', 'locationy', 'ylocation', 'y'],
	rot: ['rot', 'rotation', 'angle', 'theta', 'orient', 'orientation', 'drehung'],
	side: ['side', 'layer', 'tb', 'face', 'boardside', 'seite'],
	value: ['value', 'val', 'comment', 'wert'],
	package: ['package', 'footprint', 'pattern', 'shape', 'decal', 'gehäuse']
};

const SIDES: Record<Side, readonly string[]> = {
	top: ['t', 'top', 'toplayer', 'front', 'componentside', 'cs', 'primary', '1', 'oben', 'dessus'],
	bottom: ['b', 'bot', 'bottom', 'bottomlayer', 'back', 'solderside', 'ss', 'secondary', '2', 'unten', 'dessous']
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

function unitInTitle(title: string): LengthUnit | null {
	const match = /[([]\s*([a-zµμ"]+)\s*[)\]]/i.exec(title) ?? /[\s_-](mm|mils?|inch|in)$/i.exec(title.trim());
	return match ? (UNIT_WORDS[match[1]!.toLowerCase()] ?? null) : null;
}

/** Reads a position (XY) file. A bad cell rejects its row with line, field and value; all other rows load.
 * @param text the decoded file
 * @param givenUnit the unit a person chose, where the file does not say
 * @param givenDecimal the decimal sign a person chose, where the file can be read both ways
 * @returns rows in file order with x, y in mm (in file units where `unit` is null)
 */
export function readPositions(text: string, givenUnit: LengthUnit | null = null, givenDecimal: '.' | ',' | null = null): PositionFile {
	const cut = openQuote(text);
	if (cut) return { rows: [], unit: null, ignored: [], issues: [cut] };
	const header = findHeader<Role>(text, rolesOf, ['ref', 'x', 'y']);
	if (!header) {
		const first = text.split(/\r\n|\r|\n/).find((raw) => raw.trim() !== '') ?? '';
		return {
			rows: [],
			unit: null,
			ignored: [],
			issues: [
				{
					severity: 'error',
					code: 'needs_mapping',
					line: 1,
					field: 'header',
					value: quoteValue(first),
					message: 'No header line with designator, X and Y was found. Add one, for example "Designator,X (mm),Y (mm),Rotation,Side".'
				}
			]
		};
	}
	const { columns, titles, rows } = header;
	const issues: Issue[] = [];
	const ignored = rows.slice(0, header.headerAt).flatMap((row) => {
		const line = row.cells.join(' ').trim();
		return line ? [{ line: row.line, text: line }] : [];
	});
	const unit = unitInTitle(titles[columns.x!] ?? '') ?? preambleUnit(rows.slice(0, header.headerAt)) ?? givenUnit ?? null;
	const data = rows.slice(header.headerAt + 1);
	const cellsOf = (role: Role) => data.map((row) => row.cells[columns[role]!] ?? '');
	const signs = { x: givenDecimal ?? decimalSign(cellsOf('x')), y: givenDecimal ?? decimalSign(cellsOf('y')) };
	const common = signs.x === ',' || signs.y === ',' ? ',' : '.';
	if (signs.x === 'ambiguous' || signs.y === 'ambiguous') {
		const sample = cellsOf(signs.x === 'ambiguous' ? 'x' : 'y').find((cell) => cell.includes(',')) ?? '';
		issues.push({
			severity: 'error',
			code: 'ambiguous_decimal',
			line: data[0]?.line ?? 1,
			field: signs.x === 'ambiguous' ? 'X' : 'Y',
			value: quoteValue(sample),
			message: `"${sample}" can be read with a decimal comma or as thousands. Choose the decimal sign.`
		});
		return { rows: [], unit, issues, ignored };
	}
	const rowsOut: PlacedRow[] = [];
	let cellUnit: LengthUnit | null = null;
	for (const row of data) {
		const cell = (role: Role) => (columns[role] === undefined ? '' : (row.cells[columns[role]] ?? '').trim());
		const refDes = cell('ref');
		if (row.cells.every((c) => c.trim() === '')) continue;
		if (isFooter(row, refDes, cell('y'))) {
			ignored.push({ line: row.line, text: row.cells.join(' ').trim() });
			continue;
		}
		const reject = (field: string, value: string, what: string) =>
			issues.push({
				severity: 'error',
				code: 'bad_cell',
				line: row.line,
				field,
				value: quoteValue(value),
				message: `Line ${row.line}, field ${field}: "${quoteValue(value)}" ${what}. Correct the cell; the other rows were read.`
			});
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
		const side = columns.side === undefined ? 'top' : sideOf(cell('side'));
		if (!side) {
			reject('side', cell('side'), 'is neither top nor bottom');
			continue;
		}
		/** A unit in the cell outranks the file's. */
		const toMm = (cellValue: { value: number; unit: string | null }) => {
			const own = cellValue.unit ? UNIT_WORDS[cellValue.unit] : undefined;
			if (own) cellUnit = own;
			return cellValue.value * MM_PER[own ?? unit ?? 'mm'];
		};
		rowsOut.push({
			refDes,
			xMm: toMm(x),
			yMm: toMm(y),
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
	return { rows: rowsOut, unit: unit ?? cellUnit, issues, ignored };
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
