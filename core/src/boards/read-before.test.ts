import { describe, expect, test } from 'vitest';
import { readBom, readPositions } from '../artwork/index.ts';
import type { ColumnChoice } from '../tables/index.ts';
import type { BoardFiles, ReadBoard } from './files.ts';
import { answeredAsBefore, howRead, type ReadBefore } from './read-before.ts';

const FOREIGN = 'Bezug;Lage quer;Lage hoch;Dreh;Bauform\nR1;1,5;2,25;90;R0402\nR2;3,5;4,75;0;R0402\nU1;10,5;8,25;180;QFN16\n';
const CHOICE: ColumnChoice = {
	delimiter: ';',
	titles: ['Bezug', 'Lage quer', 'Lage hoch', 'Dreh', 'Bauform'],
	roles: ['ref', 'x', 'y', 'rot', 'package']
};

describe('columns that a person chooses', () => {
	test('a header in unknown words is asked, with what the columns look like', () => {
		const { rows, issues, columns } = readPositions(FOREIGN, 'mm', null, 'top');
		expect(rows).toEqual([]);
		expect(issues).toMatchObject([{ code: 'needs_mapping', severity: 'error' }]);
		expect(columns).toEqual({
			...CHOICE,
			roles: ['ref', 'x', 'y', 'rot', null],
			sample: [
				['R1', '1,5', '2,25', '90', 'R0402'],
				['R2', '3,5', '4,75', '0', 'R0402'],
				['U1', '10,5', '8,25', '180', 'QFN16']
			]
		});
	});

	test('as they are chosen the rows are read, none left out', () => {
		const { rows, issues } = readPositions(FOREIGN, 'mm', null, 'top', CHOICE);
		expect(issues).toEqual([]);
		expect(rows.map(({ refDes, xMm, yMm, rotationDeg, packageName, line }) => [refDes, xMm, yMm, rotationDeg, packageName, line])).toEqual([
			['R1', 1.5, 2.25, 90, 'R0402', 2],
			['R2', 3.5, 4.75, 0, 'R0402', 3],
			['U1', 10.5, 8.25, 180, 'QFN16', 4]
		]);
	});

	test('a file without any header: its first line is a part', () => {
		const bare = 'R1 1.5 2.25 90\nR2 3.5 4.75 0\nC3 5.5 4.75 270\n';
		const proposed = readPositions(bare, 'mm', null, 'top').columns!;
		expect(proposed).toMatchObject({ delimiter: ' ', titles: null, roles: ['ref', 'x', 'y', 'rot'] });
		expect(readPositions(bare, 'mm', null, 'top', proposed).rows.map((row) => [row.refDes, row.xMm, row.line])).toEqual([
			['R1', 1.5, 1],
			['R2', 3.5, 2],
			['C3', 5.5, 3]
		]);
	});

	test('a file of more columns than anybody looks through proposes none', () => {
		const wide = (n: number) =>
			Array.from({ length: 4 }, (_, r) => ['R' + r, ...Array.from({ length: n - 1 }, (__, i) => r + i / 7)].join(';')).join('\n');
		expect(readPositions(wide(100), 'mm', null, 'top').columns!.roles).toHaveLength(100);
		expect(readPositions(wide(101), 'mm', null, 'top').columns).toBeNull();
		expect(readPositions(`Ref;X;Y;Side${';n'.repeat(200)}\nR1;1.5;2.5;top\n`, 'mm').columns).toBeNull();
	});

	test('without X nothing is read, and X is asked', () => {
		const { rows, issues } = readPositions(FOREIGN, 'mm', null, 'top', { ...CHOICE, roles: ['ref', null, 'y', 'rot', null] });
		expect(rows).toEqual([]);
		expect(issues[0]).toMatchObject({ code: 'needs_mapping', message: 'No column is chosen for X. Choose it.' });
	});

	test('a choice for other titles is no choice for this file', () => {
		const known = 'Ref,X (mm),Y (mm),Side\nR1,1.5,2.5,top\n';
		expect(readPositions(known, null, null, null, CHOICE).rows).toEqual(readPositions(known).rows);
		expect(readPositions(known, null, null, null, CHOICE).rows).toHaveLength(1);
	});

	test('a table cut by blanks, with blanks in its cells', () => {
		const text = 'Bezug  Quer  Hoch  Bauteilwert\nR1     1.5   2.25  10k 1 %\nR2     3.5   4.75  22k\n';
		const choice: ColumnChoice = { delimiter: ' ', titles: ['Bezug', 'Quer', 'Hoch', 'Bauteilwert'], roles: ['ref', 'x', 'y', 'value'] };
		const { rows } = readPositions(text, 'mm', null, 'top', choice);
		expect(rows.map(({ refDes, xMm, yMm, value }) => [refDes, xMm, yMm, value])).toEqual([
			['R1', 1.5, 2.25, '10k 1 %'],
			['R2', 3.5, 4.75, '22k']
		]);
	});

	test('a parts list in unknown words: designators, number and quantity are proposed', () => {
		const text = 'Teil;Wo;Stk\nK-100;R1, R2;2\nK-200;C1;1\nK-300;"U1";1\n';
		const { items, columns, issues } = readBom(text);
		expect(items).toEqual([]);
		expect(issues).toMatchObject([{ code: 'needs_mapping' }]);
		expect(columns).toMatchObject({ titles: ['Teil', 'Wo', 'Stk'], roles: ['part', 'ref', 'quantity'] });
		expect(readBom(text, new Set(), columns).items).toMatchObject([
			{ partNumber: 'K-100', designators: ['R1', 'R2'], quantity: 2 },
			{ partNumber: 'K-200', designators: ['C1'], quantity: 1 },
			{ partNumber: 'K-300', designators: ['U1'], quantity: 1 }
		]);
	});
});

describe('what a customer’s files were read like before', () => {
	const files = {
		paste: { name: 'paste.gbr' },
		positions: { name: 'xy.csv' },
		bom: { name: 'bom.csv' },
		layerUnit: null,
		unit: null,
		decimal: null,
		positionsSide: null
	} as unknown as BoardFiles;
	const before: ReadBefore = { file: 'positions', columns: CHOICE, unit: 'mil', decimal: ',', side: 'bottom', from: 'Tram door A' };
	const read = (codes: [code: string, file: string][], roles: (string | null)[] = CHOICE.roles as string[]) =>
		({
			issues: codes.map(([code, file]) => ({ severity: 'error', code, file, field: '', value: '', message: '' })),
			columns: { positions: { ...CHOICE, roles, sample: [] }, bom: null }
		}) as unknown as ReadBoard;

	test('answers only what is asked', () => {
		const given = { ...files, readBefore: [before] };
		expect(answeredAsBefore(given, read([]))).toBeNull();
		expect(answeredAsBefore(given, read([['needs_units', 'xy.csv']]))).toMatchObject({
			files: { unit: 'mil', decimal: null, positionsSide: null },
			said: [{ file: 'positions', what: 'unit', from: 'Tram door A' }]
		});
		expect(answeredAsBefore(given, read([['ambiguous_decimal', 'xy.csv']]))!.files).toMatchObject({ unit: null, decimal: ',' });
		expect(answeredAsBefore(given, read([['needs_side', 'xy.csv']]))!.files).toMatchObject({ positionsSide: 'bottom', decimal: null });
	});

	test('what a person says now goes before', () => {
		const given = { ...files, unit: 'mm' as const, readBefore: [before] };
		expect(answeredAsBefore(given, read([['needs_units', 'xy.csv']]))).toBeNull();
	});

	test('columns are taken as then; for a table with other titles nothing is', () => {
		const given = { ...files, readBefore: [before] };
		expect(answeredAsBefore(given, read([], ['ref', 'y', 'x', 'rot', null]))!.files.positionsColumns).toEqual(CHOICE);
		const asked = read([['needs_side', 'xy.csv']]);
		asked.columns.positions!.titles = ['Bezug', 'X', 'Y'];
		expect(answeredAsBefore(given, asked)).toBeNull();
	});

	test('the same columns are chosen again where the header alone says nothing', () => {
		const given = { ...files, readBefore: [before] };
		expect(answeredAsBefore(given, read([['needs_mapping', 'xy.csv']]))!.files.positionsColumns).toEqual(CHOICE);
		expect(answeredAsBefore({ ...given, positionsColumns: CHOICE }, read([['needs_mapping', 'xy.csv']]))).toBeNull();
	});

	test('the latest reading counts', () => {
		const given = { ...files, readBefore: [{ ...before, side: 'top' as const, from: 'newer' }, before] };
		expect(answeredAsBefore(given, read([['needs_side', 'xy.csv']]))!.said).toEqual([{ file: 'positions', what: 'side', from: 'newer' }]);
	});

	test('the unit of a paste layer, whatever the board', () => {
		const paste: ReadBefore = { file: 'paste', columns: null, unit: 'inch', decimal: null, side: null, from: 'Tram door A' };
		const given = { ...files, readBefore: [paste] };
		expect(answeredAsBefore(given, read([['needs_unit', 'paste.gbr']]))!.files.layerUnit).toBe('inch');
		expect(answeredAsBefore(given, read([['needs_unit', 'outline.gbr']]))).toBeNull();
	});

	test('everything that was chosen is remembered', () => {
		const given = { ...files, layerUnit: 'mm' as const, unit: 'mil' as const, positionsSide: 'top' as const };
		expect(howRead(given, read([]))).toEqual([
			{ file: 'paste', columns: null, unit: 'mm', decimal: null, side: null },
			{ file: 'positions', columns: CHOICE, unit: 'mil', decimal: null, side: 'top' }
		]);
	});
});
