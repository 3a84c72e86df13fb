import exceljs from 'exceljs';
import { describe, expect, test } from 'vitest';
import type { BoardFiles } from '@keen-relay/core/boards';
import { readBoardFiles } from './read-files.ts';
import { readSheets } from './spreadsheet.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const file = (name: string, content: string | Uint8Array) => ({ name, bytes: typeof content === 'string' ? bytes(content) : content });

const CHIPS = Array.from({ length: 9 }, (_, i) => ({ ref: `R${i + 1}`, x: 8 + (i % 3) * 9 + i, y: 6 + Math.floor(i / 3) * 7 + (i % 2) }));
const PASTE = [
	'%FSLAX34Y34*%',
	'%MOMM*%',
	'%ADD10R,0.5X0.54*%',
	'D10*',
	...CHIPS.flatMap(({ x, y }) => [`X${x * 10000 - 4800}Y${y * 10000}D03*`, `X${x * 10000 + 4800}Y${y * 10000}D03*`]),
	'M02*',
	''
].join('\n');
const positions = (of: (chip: (typeof CHIPS)[number]) => [number, number], header = 'Ref,X (mm),Y (mm),Rot,Side,Package') =>
	[header, ...CHIPS.map((chip) => `${chip.ref},${of(chip).join(',')},0,T,RESC1005X40N`), ''].join('\n');
const AS_IT_IS = positions(({ x, y }) => [x, y]);
const BOM = 'Part number,Designators,Quantity,Package\nR-10K,R1-R9,9,RESC1005X40N\n';

const files = (changed: Partial<BoardFiles> = {}): BoardFiles => ({
	paste: file('paste.gbr', PASTE),
	positions: file('xy.csv', AS_IT_IS),
	bom: file('bom.csv', BOM),
	outline: null,
	netlist: null,
	layers: [],
	content: null,
	widthMm: 45,
	heightMm: 30,
	side: 'top',
	unit: null,
	decimal: null,
	positionsSide: null,
	layerUnit: null,
	...changed
});
const codes = async (changed: Partial<BoardFiles>) => (await readBoardFiles(files(changed))).issues.map((issue) => issue.code);

describe('the files of one side', () => {
	test('files that agree are kept without an issue', async () => {
		const board = await readBoardFiles(files());
		expect(board.issues).toEqual([]);
		expect(board.refused).toBe(false);
		expect(board.reconciliation.findings).toEqual([]);
		expect(board.apertures).toHaveLength(18);
		expect(board.apertures[0]).toMatchObject({ refDes: 'R1', padClass: 'chip' });
	});

	test('an opening on a pad that gets no paste is named; one of the other side, or beside it, is not', async () => {
		const { x, y } = CHIPS[0]!;
		const copper = (side: string, padFunction: string, at: [number, number]) =>
			[
				`%TF.FileFunction,Copper,L1,${side}*%`,
				'%FSLAX34Y34*%',
				'%MOMM*%',
				`%TA.AperFunction,${padFunction}*%`,
				'%ADD20C,1.0*%',
				'%TD*%',
				'%ADD21R,0.6X0.6*%',
				'D20*',
				`X${at[0] * 10000}Y${at[1] * 10000}D03*`,
				'D21*',
				`X${(x + 0.48) * 10000}Y${y * 10000}D03*`,
				'M02*',
				''
			].join('\n');
		const said = (text: string) => readBoardFiles(files({ layers: [file('copper.gbr', text)] })).then((board) => board.issues);
		const here: [number, number] = [x - 0.48, y];
		expect(await said(copper('Top', 'TestPad', here))).toMatchObject([
			{ severity: 'warning', code: 'no_paste_pad', line: 9, value: 'TestPad', file: 'copper.gbr' }
		]);
		expect(await said(copper('Top', 'FiducialPad,Local', here))).toHaveLength(1);
		expect(await said(copper('Top', 'SMDPad,CuDef', here))).toEqual([]);
		expect(await said(copper('Bot', 'TestPad', here))).toEqual([]);
		expect(await said(copper('Top', 'TestPad', [40, 28]))).toEqual([]);
	});

	test('a moved origin is found and said', async () => {
		const board = await readBoardFiles(
			files({
				positions: file(
					'xy.csv',
					positions(({ x, y }) => [x + 100, y - 20])
				)
			})
		);
		expect(board.issues).toMatchObject([{ severity: 'warning', code: 'registered', file: 'xy.csv' }]);
		expect(board.issues[0]!.value).toContain('origin moved by -100.000, 20.000 mm');
		expect(board.reconciliation.findings).toEqual([]);
	});

	test('a mirrored file is found and said', async () => {
		const board = await readBoardFiles(
			files({
				positions: file(
					'xy.csv',
					positions(({ x, y }) => [-x, y])
				)
			})
		);
		expect(board.issues[0]!.value).toContain('x mirrored');
		expect(board.reconciliation.parts[0]!.xMm).toBeCloseTo(8, 6);
	});

	test('a file that names no side asks for it and keeps nothing; the answer reads the same board', async () => {
		const plain = positions(({ x, y }) => [x, y], 'Ref,X (mm),Y (mm),Rot,Side,Package')
			.split('\n')
			.map((row) =>
				row
					.split(',')
					.filter((_, i) => i !== 4)
					.join(',')
			)
			.join('\n');
		const asked = await readBoardFiles(files({ positions: file('xy.csv', plain) }));
		expect(asked.refused).toBe(true);
		expect(asked.issues).toMatchObject([{ code: 'needs_side', file: 'xy.csv', line: 1 }]);
		const answered = await readBoardFiles(files({ positions: file('xy.csv', plain), positionsSide: 'top' }));
		expect([answered.refused, answered.issues]).toEqual([false, []]);
		expect(answered.reconciliation.parts).toEqual((await readBoardFiles(files())).reconciliation.parts);
		// All of the other side: this side has none, and that is said.
		expect(await codes({ positions: file('xy.csv', plain), positionsSide: 'bottom' })).toContain('refused');
	});

	test('a unit that the file does not say is voted for', async () => {
		const mil = positions(({ x, y }) => [x / 0.0254, y / 0.0254], 'Ref,X,Y,Rot,Side,Package');
		const board = await readBoardFiles(files({ positions: file('xy.csv', mil) }));
		expect(board.issues[0]!.value).toContain('unit mil');
		expect(board.issues[0]!.message).toContain('in mil 9 of 9 parts lie on their pads');
		expect(board.reconciliation.parts[4]!.xMm).toBeCloseTo(CHIPS[4]!.x, 3);
	});

	test('a paste layer without a unit is drawn in both and asked for; the answer goes for the layers drawn with it', async () => {
		const bare = PASTE.replace('%MOMM*%\n', '');
		expect(bare).not.toBe(PASTE);
		const asked = await readBoardFiles(files({ paste: file('paste.gbr', bare) }));
		expect(asked.refused).toBe(true);
		expect(asked.issues[0]).toMatchObject({ code: 'needs_unit', file: 'paste.gbr' });
		const [mm, inch] = asked.inUnits!;
		expect([mm!.unit, inch!.unit, mm!.outlines.length]).toEqual(['mm', 'inch', 18]);
		expect(inch!.widthMm / mm!.widthMm).toBeCloseTo(25.4, 6);
		expect(inch!.narrowestMm / mm!.narrowestMm).toBeCloseTo(25.4, 6);
		const answered = await readBoardFiles(files({ paste: file('paste.gbr', bare), layerUnit: 'mm' }));
		expect(answered).toMatchObject({ refused: false, issues: [], inUnits: null });
		expect(answered.apertures.map((a) => a.outline)).toEqual((await readBoardFiles(files())).apertures.map((a) => a.outline));
		const edge = '%FSLAX34Y34*%\n%ADD10C,0.1*%\nD10*\nX0Y0D02*\nX450000Y0D01*\nX450000Y300000D01*\nX0Y300000D01*\nX0Y0D01*\nM02*\n';
		const outline = { outline: file('edge.gbr', edge), widthMm: null, heightMm: null };
		expect(await codes(outline)).toContain('needs_unit');
		expect(await readBoardFiles(files({ ...outline, layerUnit: 'mm' }))).toMatchObject({ refused: false, widthMm: 45, heightMm: 30 });
	});

	test('positions of another board ask for the unit, or warn where the unit is known', async () => {
		const foreign = (header: string) => positions(({ x, y }) => [(x * 7919) % 97, (y * 6007) % 89], header);
		const asked = (await readBoardFiles(files({ positions: file('xy.csv', foreign('Ref,X,Y,Rot,Side,Package')) }))).issues.find(
			(issue) => issue.code === 'needs_units'
		);
		expect(asked?.message).toMatch(/in \w+ \d of 9 parts lie on their pads, in \w+ \d, in \w+ \d\. Choose the unit/);
		const known = await readBoardFiles(files({ positions: file('xy.csv', foreign('Ref,X (mm),Y (mm),Rot,Side,Package')) }));
		expect(known.issues.map((issue) => issue.code)).toContain('not_registered');
		expect(known.refused).toBe(false);
		expect(known.reconciliation.findings.some((finding) => finding.code === 'placed_without_paste')).toBe(true);
	});

	test('an outline gives the size and moves everything to its corner', async () => {
		const corners = [
			[2, 3],
			[47, 3],
			[47, 33],
			[2, 33],
			[2, 3]
		];
		const outline = `%FSLAX34Y34*%\n%MOMM*%\n%ADD10C,0.1*%\nD10*\n${corners.map(([x, y], i) => `X${x! * 10000}Y${y! * 10000}D0${i ? 1 : 2}*`).join('\n')}\nM02*\n`;
		const board = await readBoardFiles(files({ outline: file('outline.gbr', outline), widthMm: null, heightMm: null }));
		expect([board.widthMm, board.heightMm]).toEqual([45, 30]);
		expect(board.apertures[0]!.centre.x).toBeCloseTo(8 - 0.48 - 2, 4);
		// The positions kept the old origin: they are brought along.
		expect(board.reconciliation.parts[0]!.xMm).toBeCloseTo(6, 3);
	});

	test('without a size nothing is kept', async () => {
		const board = await readBoardFiles(files({ widthMm: null }));
		expect(board.refused).toBe(true);
		expect(board.issues.at(-1)!.message).toContain('width and height, or its outline layer');
	});

	test.each([
		{ what: 'a board of 2 mm', changed: { widthMm: 2 }, word: 'is not between 5 and 600 mm' },
		{ what: 'an outline without a line', changed: { outline: file('o.gbr', '%FSLAX34Y34*%\n%MOMM*%\nM02*\n') }, word: 'draws no line' },
		{ what: 'no part on this side', changed: { side: 'bottom' as const }, word: 'no part on the bottom side' },
		{ what: 'an empty parts list', changed: { bom: file('bom.csv', '') }, word: 'The file is empty' },
		{ what: 'a parts list without a header', changed: { bom: file('bom.csv', 'hello\n') }, word: 'No header line' },
		{
			what: 'a binary position file',
			changed: { positions: file('xy.csv', Uint8Array.from([1, 0, 2, 0, 0, 9])) },
			word: 'This is a binary file'
		},
		{
			what: 'a picture as paste layer',
			changed: { paste: file('p.png', Uint8Array.from([0x89, 80, 78, 71, 0, 0])) },
			word: 'This is a binary file'
		},
		{
			what: 'a zip that is no spreadsheet',
			changed: { bom: file('b.xlsx', Uint8Array.from([0x50, 0x4b, 3, 4, 9, 9])) },
			word: 'cannot be opened as a spreadsheet'
		}
	])('$what is refused in words', async ({ changed, word }) => {
		const board = await readBoardFiles(files(changed));
		expect(board.refused).toBe(true);
		expect(board.issues.map((issue) => issue.message).join(' ')).toContain(word);
	});

	test('a part off the board is an error with its line', async () => {
		const far = AS_IT_IS.replace('R9,', 'R9X,').concat('R9,400,10,0,T,RESC1005X40N\n');
		const board = await readBoardFiles(files({ positions: file('xy.csv', far) }));
		expect(board.issues).toMatchObject([{ code: 'off_board', line: 11, value: '400.00, 10.00 mm' }]);
	});

	test('the issues of each file carry its name', async () => {
		const board = await readBoardFiles(
			files({
				positions: file('xy.csv', AS_IT_IS.replace('R2,', 'R2,x')),
				bom: file('bom.csv', BOM.replace(',9,', ',8,'))
			})
		);
		expect(board.issues.map((issue) => [issue.file, issue.code])).toEqual([
			['xy.csv', 'bad_cell'],
			['bom.csv', 'qty_mismatch']
		]);
	});
});

describe('spreadsheets', () => {
	async function workbook(fill: (sheet: exceljs.Worksheet) => void): Promise<Uint8Array> {
		const book = new exceljs.Workbook();
		book.addWorksheet('Cover').addRow(['Some board']);
		fill(book.addWorksheet('Parts'));
		return new Uint8Array(await book.xlsx.writeBuffer());
	}

	test('the sheet with the header is taken, and lines are rows of the sheet', async () => {
		const content = await workbook((sheet) => {
			sheet.addRow(['Title']);
			sheet.addRow([]);
			sheet.addRow(['Part number', 'Designators', 'Qty', 'Package']);
			sheet.addRow(['R-10K', 'R1-R9', 8, 'RESC1005X40N']);
		});
		const board = await readBoardFiles(files({ bom: file('bom.xlsx', content) }));
		expect(board.bom.items).toHaveLength(1);
		expect(board.issues).toMatchObject([{ file: 'bom.xlsx', code: 'qty_mismatch', line: 4 }]);
	});

	test('a number format keeps its zeros; a bare chip code gets its zero back and says so', async () => {
		const content = await workbook((sheet) => {
			sheet.addRow(['Part number', 'Designators', 'Package']);
			sheet.addRow(['A', 'R1', 402]).getCell(3).numFmt = '0000';
			sheet.addRow(['B', 'R2', 603]);
			sheet.addRow(['0012', 'R3', 'QFN']);
		});
		const [, parts] = await readSheets(content);
		expect(parts!.text.split('\n').slice(1)).toEqual(['A\tR1\t0402', 'B\tR2\t0603', '0012\tR3\tQFN']);
		expect(parts!.issues).toMatchObject([{ code: 'package_zero_restored', line: 3, value: '603' }]);
	});

	test('the header may stand on any row, and a sheet that claims a million rows is read as what it holds', async () => {
		const content = await workbook((sheet) => {
			sheet.addRow(['Fernbrook Assembly']);
			sheet.addRow([]);
			sheet.addRow(['Part number', 'Designators', 'Package']);
			sheet.addRow(['A', 'R1', 402]);
			sheet.addRow(['B', 'R2', 603]);
			sheet.addRow(['C', 'R3', 1005]);
			sheet.getCell('A40000').value = 'Total';
		});
		const [, parts] = await readSheets(content);
		expect(parts!.text.split('\n').slice(2, 6)).toEqual(['Part number\tDesignators\tPackage', 'A\tR1\t0402', 'B\tR2\t0603', 'C\tR3\t1005']);
		const sparse = await workbook((sheet) => (sheet.getCell('XFD1048576').value = 'x'));
		const began = performance.now();
		const [, far] = await readSheets(sparse);
		expect(far!.issues).toMatchObject([{ code: 'sheet_too_large', severity: 'error' }]);
		expect(performance.now() - began).toBeLessThan(2000);
	});

	test('metric and imperial size codes in one list are asked about', async () => {
		const list = (code: string) => file('bom.csv', `Part number,Designators,Package\nA,R1,${code}\nB,R2,0603\n`);
		const said = async (code: string) =>
			(await readBoardFiles(files({ bom: list(code) }))).issues.filter((i) => i.code === 'size_codes_mixed');
		expect(await said('1608')).toMatchObject([{ line: 3, value: '0603', message: expect.stringContaining('line 2 has 1608') }]);
		expect(await said('0805')).toEqual([]);
	});

	test('a part number that was turned into a date is asked about', async () => {
		const content = await workbook((sheet) => {
			sheet.addRow(['Part number', 'Designators']);
			sheet.addRow([new Date('2026-03-01'), 'R1']);
		});
		const [, parts] = await readSheets(content);
		expect(parts!.issues).toMatchObject([{ severity: 'error', code: 'date_in_sheet', line: 2, value: '2026-03-01' }]);
	});
});
