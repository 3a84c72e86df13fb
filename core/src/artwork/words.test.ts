import { describe, expect, test } from 'vitest';
import { expandDesignators, readBom } from './bill-of-materials.ts';
import { readPositions } from './positions.ts';
import { findHeader, plainTitle, readNumber } from '../tables/index.ts';

const readTop = (text: string) => readPositions(text, null, null, 'top');
const row = (cells: string) => `Ref,X (mm),Y (mm),Rot,Layer\nR1,1,2,${cells}\n`;

describe('words for the two sides', () => {
	test.each(['T', 'top', 'TopLayer', 'Top Layer', 'front', 'Component Side', 'CS', 'primary', '1', 'oben', 'dessus'])(
		'"%s" is the top',
		(word) => {
			expect(readPositions(row(`0,${word}`)).rows[0]!.side).toBe('top');
		}
	);

	test.each(['B', 'bot', 'bottom', 'BottomLayer', 'back', 'solder side', 'SS', 'secondary', '2', 'unten', 'dessous'])(
		'"%s" is the bottom',
		(word) => {
			expect(readPositions(row(`0,${word}`)).rows[0]!.side).toBe('bottom');
		}
	);

	test.each(['inner', 'both', '3', ''])('"%s" is neither, and the row says so', (word) => {
		const { rows, issues } = readPositions(row(`0,${word}`));
		expect(rows).toEqual([]);
		expect(issues[0]).toMatchObject({ line: 2, field: 'side', value: word });
	});

	test.each(['T.Cu', 'F.Cu', 'Top Copper', 'topside', 'upper', 'Oberseite'])('"%s" is the top too', (word) => {
		expect(readPositions(row(`0,${word}`)).rows[0]!.side).toBe('top');
	});

	test.each(['B.Cu', 'Bottom Copper', 'BottomSide', 'lower', 'Unterseite'])('"%s" is the bottom too', (word) => {
		expect(readPositions(row(`0,${word}`)).rows[0]!.side).toBe('bottom');
	});

	test.each(['Side', 'Layer', 'TB', 'T/B', 'top/bottom', 'Top/Bot', 'Board side', 'Face'])('a column "%s" says it', (title) => {
		expect(readPositions(`Ref,X (mm),Y (mm),${title}\nR1,1,2,B\n`).rows[0]!.side).toBe('bottom');
	});

	test('mirrored is the bottom, not mirrored the top, anything else is asked about by its line', () => {
		const { rows, issues } = readPositions('Ref,X (mm),Y (mm),Mirror\nR1,1,2,yes\nR2,1,2,NO\nR3,1,2,True\nR4,1,2,0\nR5,1,2,?\n');
		expect(rows.map((r) => r.side)).toEqual(['bottom', 'top', 'bottom', 'top']);
		expect(issues).toMatchObject([{ line: 6, field: 'mirror', value: '?' }]);
	});

	test('a file that does not say it asks, and is never all of the top', () => {
		const text = 'Ref,X (mm),Y (mm)\nR1,1,2\n';
		expect(readPositions(text)).toMatchObject({ rows: [], issues: [{ code: 'needs_side', line: 1, field: 'side' }] });
		expect(readPositions(text, null, null, 'bottom').rows[0]!.side).toBe('bottom');
	});
});

describe('words for the columns', () => {
	test.each([
		'Designator,Mid X,Mid Y,Rotation',
		'RefDes,PosX,PosY,Rot',
		'Reference,Center-X(mm),Center-Y(mm),Angle',
		'Component,X-Coord,Y-Coord,Theta',
		'name,Location X,Location Y,Orientation',
		'Bauteil,X,Y,Drehung',
		'REF DES,CENTRE X,CENTRE Y,ROT'
	])('"%s"', (header) => {
		const { rows, issues } = readTop(`${header}\nR1,1,2,90\n`);
		expect(issues).toEqual([]);
		expect(rows[0]).toMatchObject({ refDes: 'R1', xMm: 1, yMm: 2, rotationDeg: 90 });
	});

	test('the body’s middle is taken before pad or reference points', () => {
		const { rows } = readTop('Designator,X,Y,Mid X,Mid Y\nR1,9,9,1,2\n');
		expect(rows[0]).toMatchObject({ xMm: 1, yMm: 2 });
	});

	test('titles are compared without case, blanks, punctuation and unit', () => {
		expect(['Mid X (mm)', 'MID_X', 'mid-x [mil]', 'MidX'].map(plainTitle)).toEqual(['midx', 'midx', 'midx', 'midx']);
	});

	test.each([
		[',', 'Ref,X,Y\nR1,1,2'],
		[';', 'Ref;X;Y\nR1;1;2'],
		['|', 'Ref|X|Y\nR1|1|2'],
		['\t', 'Ref\tX\tY\nR1\t1\t2'],
		[' ', 'Ref  X  Y\nR1   1  2']
	])('delimiter "%s"', (delimiter, text) => {
		const header = findHeader(
			text,
			(titles) => ({ ref: titles.indexOf('Ref') >= 0 ? titles.indexOf('Ref') : undefined }) as { ref?: number },
			['ref']
		);
		expect(header).not.toBeNull();
		expect(readTop(`${text}\n`).rows, delimiter).toMatchObject([{ xMm: 1, yMm: 2 }]);
	});

	test.each(['#', '//', '!', '%', '*'])('a header behind the comment leader %s is found', (leader) => {
		expect(readTop(`${leader} Ref,X,Y\nR1,1,2\n`).rows).toHaveLength(1);
	});

	test('rows of fiducials and tooling are known by their names', () => {
		const kinds = readTop('Ref,X,Y\nFID1,0,0\nFD2,1,0\nMH1,2,0\nTOOL3,3,0\nF1,4,0\nR1,5,0\n').rows.map((r) => r.kind);
		expect(kinds).toEqual(['fiducial', 'fiducial', 'tooling', 'tooling', 'part', 'part']);
	});
});

describe('numbers', () => {
	test.each([
		['1.5', '.', 1.5, null],
		['-0.25mm', '.', -0.25, 'mm'],
		['100 mil', '.', 100, 'mil'],
		['0.5"', '.', 0.5, '"'],
		['1,5', ',', 1.5, null],
		['1.234,5', ',', 1234.5, null],
		['1,234.5', '.', 1234.5, null],
		['+3.', '.', 3, null],
		['.5', '.', 0.5, null],
		['1e2', '.', 100, null],
		['90°', '.', 90, '°']
	] as const)('"%s" with "%s"', (cell, sign, value, unit) => {
		expect(readNumber(cell, sign)).toEqual({ value, unit });
	});

	test.each(['12.3.4', 'abc', '1 2', '--1', '1mm2', '', 'NaN', 'Infinity'])('"%s" is no number', (cell) => {
		expect(readNumber(cell, '.')).toBeNull();
	});
});

describe('words for parts that are not fitted', () => {
	const fitted = (header: string, cells: string) => readBom(`Part number,Designators,${header}\nP1,R1,${cells}\n`).items[0]!.fitted;

	test.each(['DNS', 'D.N.P.', 'no stuff', 'no-fit', 'unpopulated', 'not populated', 'not stuffed', 'do not install', 'N.F.', 'omitted'])(
		'a cell that says "%s" as well',
		(word) => expect(fitted('Remark', word)).toBe(false)
	);

	test.each(['10k DNP', 'DNP 10k', '100n (not fitted)', '10k/DNS', '1u, no pop', '4k7 [unpopulated]'])('a value "%s"', (value) => {
		expect(fitted('Value', value.includes(',') ? `"${value}"` : value)).toBe(false);
	});

	test.each([
		['Unit', 'nF'],
		['Unit', 'NF'],
		['Value', '100 nF'],
		['Value', 'nf'],
		['Manufacturer', 'DNI'],
		['Package', 'NM'],
		['Value', 'DNPX-1'],
		['Stuffed', 'Y']
	])('%s = %s says nothing of it', (header, cell) => expect(fitted(header, cell)).toBe(true));

	test.each(['DNP', 'dnf', 'DNI', 'DNM', 'NF', 'NM', 'not fitted', 'not_placed', 'do not populate', 'Do-Not-Fit', 'no pop', 'omit'])(
		'a cell that says "%s"',
		(word) => {
			expect(fitted('Note', word)).toBe(false);
		}
	);

	test.each([
		['Fitted', 'N', false],
		['Fitted', 'Y', true],
		['Populate', 'no', false],
		['Stuffed', 'N', false],
		['Assembled', '-', false],
		['Not fitted', 'x', false],
		['DNS', 'yes', false],
		['Mount', '1', true],
		['DNP', 'Y', false],
		['DNP', 'N', true],
		['DNP', '', true],
		['Qty', '0', false],
		['Qty', '1', true]
	])('%s = %s', (header, cell, expected) => {
		expect(fitted(header, cell)).toBe(expected);
	});

	test('words inside other words do not count', () => {
		expect(fitted('Note', 'place near DNP option')).toBe(true);
		expect(fitted('Note', 'NMOS')).toBe(true);
	});
});

describe('a parts list as it comes', () => {
	test.each(['Part number,Designators', 'MPN,RefDes', 'P/N,Reference', 'Part#,Refs', 'Item number,Location'])('header "%s"', (header) => {
		expect(readBom(`${header}\nP1,"R1, R2"\n`).items).toMatchObject([{ partNumber: 'P1', designators: ['R1', 'R2'] }]);
	});

	test('the maker’s part number stands in for ours, a value for none at all, a description for nothing', () => {
		const of = (header: string, cells: string) => readBom(`Designators,${header}\nR1,${cells}\n`).items[0]!.partNumber;
		for (const title of ['MPN', 'Manufacturer Part Number', 'Mfr. Part No.', 'MFG P/N', 'Mfr Part #', 'Manufacturer PN', 'Ordering code'])
			expect(of(`Description,${title}`, 'Resistor,RX-103'), title).toBe('RX-103');
		expect(of('Part number,MPN', 'A-1,RX-103')).toBe('A-1');
		expect(of('Description,Value', 'Resistor,10k')).toBe('10k');
		expect(of('Description,Package', 'Resistor,0603')).toBe('');
	});

	test.each([
		['R1-R3', 3],
		['R1~R3', 3],
		['R1 ~ R3', 3],
		['R11 to R13', 3],
		['R1 to 3', 3],
		['R1…R3', 3],
		['R1...R3', 3],
		['R1–R3 R7', 4],
		['R1:R3', 3],
		['R1, R5 bis R6', 3]
	])('"%s" is %d designators', (text, n) => {
		expect(expandDesignators(text)).toMatchObject({ bad: [] });
		expect(expandDesignators(text).designators).toHaveLength(n);
	});

	test('a part that is put in by hand needs no paste', () => {
		const { items } = readBom('Part number,Designators,Mounting\nP1,J1,THT\nP2,J2,SMT\nP3,J3,hand\nP4,J4,through-hole\nP5,J5,\n');
		expect(items.map((item) => item.byHand)).toEqual([true, false, true, true, false]);
	});

	test('an item without designators is said, a total at the end is not an item', () => {
		const { items, issues } = readBom('Part number,Designators,Quantity\nP1,R1,1\nP9,,4\nTotal,,2\n');
		expect(items.map((item) => item.partNumber)).toEqual(['P1', 'P9']);
		expect(issues.map((issue) => [issue.code, issue.line, issue.severity])).toEqual([
			['no_designators', 3, 'warning'],
			['qty_mismatch', 3, 'error']
		]);
	});

	test('a quantity that is no whole number is an error, and the item is kept', () => {
		const { items, issues } = readBom('Part number,Designators,Quantity\nP1,R1,1.5\nP2,R2,many\n');
		expect(items).toHaveLength(2);
		expect(issues.map((issue) => [issue.code, issue.value])).toEqual([
			['bad_cell', '1.5'],
			['bad_cell', 'many']
		]);
	});

	test('a designator twice in one line is not the same fault as on two lines', () => {
		const { issues } = readBom('Part number,Designators\nP1,"R1, R1"\nP2,R1\n');
		expect(issues.map((issue) => issue.code)).toEqual(['duplicate_ref_in_line', 'ref_on_two_lines']);
	});
});

describe('files that were cut short', () => {
	test('inside a quoted cell: the line of the quote that stays open', () => {
		const { items, issues } = readBom('Part number,Designators,Quantity\nP1,R1,1\nP2,"R2, R3, R4');
		expect(items).toEqual([]);
		expect(issues).toMatchObject([{ code: 'open_quote', line: 3, value: '"R2, R3, R4' }]);
		expect(readPositions('Ref;X;Y;Value\nR1;1;2;"4k7').issues).toMatchObject([{ code: 'open_quote', line: 2 }]);
	});

	test('inside a row: the cell that is missing is named', () => {
		const { rows, issues } = readTop('Ref,X (mm),Y (mm)\nR1,1,2\nR2,3');
		expect(rows).toHaveLength(1);
		expect(issues).toMatchObject([{ line: 3, field: 'Y', value: '' }]);
	});

	test('after the header: nothing is below it', () => {
		expect(readBom('Part number,Designators\n').issues[0]!.message).toContain('cut short');
		expect(readPositions('Ref,X,Y\n').issues[0]!.message).toContain('cut short');
	});

	test('an inch mark in a cell is no open quote', () => {
		expect(readBom('Part number,Designators,Note\nP1,R1,0.5" drill\n').issues).toEqual([]);
	});
});
