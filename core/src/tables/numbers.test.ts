import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { askDecimal, DecimalEvidence, readNumber, tornRow, type Delimiter } from './index.ts';

/** What a table of these columns is decided to be: its sign, or the cells that are asked about. */
function decide(columns: Record<string, string[]>, delimiter: Delimiter = '\t') {
	const evidence = new DecimalEvidence();
	for (const [field, cells] of Object.entries(columns)) cells.forEach((cell, i) => evidence.add(field, cell, i + 2));
	const { sign, ask } = evidence.decide(delimiter);
	return ask ? ask.map((a) => `${a.field} ${a.cell}: ${a.point} / ${a.comma}`) : sign;
}
const many = (cell: (i: number) => string, n = 10) => Array.from({ length: n }, (_, i) => cell(i));

describe('ten ordinary dialects ask nothing', () => {
	test.each<[string, Record<string, string[]>, Delimiter, string]>([
		['points', { X: ['10.5', '3.25'], R: ['90', '0'] }, ',', '.'],
		['points, three decimals', { X: ['10.500', '3.250'], Y: ['101.125', '7.000'] }, ',', '.'],
		['points between semicolons', { X: ['10.500', '3.250'] }, ';', '.'],
		['commas between semicolons', { X: ['10,5', '3,25'] }, ';', ','],
		['commas between semicolons, three decimals', { X: ['10,500', '3,250'] }, ';', ','],
		['commas between tabs, three decimals', { X: many((i) => `${10 + i},500`), R: ['90', '0'] }, '\t', ','],
		['quoted commas among commas', { V: ['96,0', '101,5'], H: ['98', '97'] }, ',', ','],
		['points and thousands by commas', { X: ['1,250.5', '850.25', '2,100.0'] }, '\t', '.'],
		['commas and thousands by points', { X: ['1.250,5', '850,25', '2.100,0'] }, ';', ','],
		['whole numbers', { X: ['1250', '850'], R: ['90'] }, ' ', '.'],
		['blanks between thousands', { X: ['1 250,5', '850,25'] }, ';', ','],
		['units in the cells', { X: ['10,5mm', '3,25 mm'], R: ['90°'] }, ';', ','],
		['a leading nought', { X: ['0,250', '1,500'] }, '\t', ',']
	])('%s', (_, columns, delimiter, sign) => expect(decide(columns, delimiter)).toBe(sign));
});

describe('what does not decide is asked, read both ways', () => {
	test('one column with points, another with commas', () => {
		expect(decide({ X: ['10.5'], Y: ['11,5'] })).toEqual(['X 10.5: 10.5 / null', 'Y 11,5: null / 11.5']);
	});
	test('a column that may be thousands beside one with points: nothing else writes thousands', () => {
		expect(decide({ X: ['1,025'], Y: ['10.25'] })).toEqual(['Y 10.25: 10.25 / null', 'X 1,025: 1025 / 1.025']);
		expect(decide({ X: ['1.025'], Y: ['10,25'] })).toEqual(['Y 10,25: null / 10.25', 'X 1.025: 1.025 / 1025']);
	});
	test('where a cell shows how thousands are written, another may be one', () => {
		expect(decide({ X: ['1,025', '2,100.5'], Y: ['10.25'] })).toBe('.');
	});
	test('rotations count as much as places', () => {
		expect(decide({ X: ['10', '20'], R: ['90,0'] })).toBe(',');
		expect(decide({ X: ['10.5'], R: ['90,0'] })).toHaveLength(2);
	});
	test('three digits after a comma in a few cells may be thousands', () => {
		expect(decide({ X: ['1,250', '2,500'] })).toEqual(['X 1,250: 1250 / 1.25']);
		expect(decide({ X: many((i) => `${i + 1},250`, 7) })).toHaveLength(1);
		expect(decide({ X: many((i) => `${i + 1},250`, 8) })).toBe(',');
		// Mils, where what is below a thousand has no comma.
		expect(decide({ X: [...many((i) => `${i + 1},250`), '850'] })).toHaveLength(1);
		expect(decide({ X: ['1,250'], Y: ['1.250'] })).toEqual(['Y 1.250: 1.25 / 1250', 'X 1,250: 1250 / 1.25']);
	});
	test('the question names line, field and both readings', () => {
		const evidence = new DecimalEvidence();
		evidence.add('X', '10.5', 2);
		evidence.add('Y', '11,5', 9);
		const { line, value, message } = askDecimal(evidence.decide(';').ask!);
		expect([line, value]).toEqual([2, '10.5 / 11,5']);
		expect(message).toBe(
			'The numbers of this file can be read in two ways: line 2, X: "10.5" is 10.5 with a decimal point, no number with a decimal comma; line 9, Y: "11,5" is no number with a decimal point, 11.5 with a decimal comma. Choose the decimal sign.'
		);
	});
	test('words and blanks prove nothing', () => {
		expect(decide({ X: ['', 'n/a', 'R1,2', '12.3.4'], Y: ['11,5'] })).toBe(',');
	});
});

describe('a number is what is written, nothing is passed over', () => {
	test.each([
		['11,5', '.'],
		['96,0', '.'],
		['1,02,500', '.'],
		['0,250', '.'],
		['10.5', ','],
		['1.02.500', ','],
		['1,2,3', ','],
		['9'.repeat(400), '.'],
		['1e999', '.'],
		['1 25', '.']
	] as const)('"%s" is no number with "%s"', (cell, sign) => expect(readNumber(cell, sign)).toBeNull());

	test.each([
		['1,025', '.', 1025],
		['1.025', ',', 1025],
		["1'025.5", '.', 1025.5],
		['12 345 678,25', ',', 12345678.25],
		['1e-3', '.', 0.001],
		[',5', ',', 0.5],
		['45 %', '.', 45]
	] as const)('"%s" with "%s" is %d', (cell, sign, value) => expect(readNumber(cell, sign)!.value).toBe(value));

	test('every number comes back as it was written, in either way of writing (property)', () => {
		fc.assert(
			fc.property(fc.integer({ min: -9_999_999, max: 9_999_999 }), fc.integer({ min: 0, max: 4 }), (digits, decimals) => {
				const value = digits / 10 ** decimals;
				const text = value.toFixed(decimals);
				expect(readNumber(text, '.')!.value).toBe(value);
				expect(readNumber(text.replace('.', ','), ',')!.value).toBe(value);
			})
		);
	});

	test('a row with more cells than titles was torn', () => {
		expect(tornRow(['R1', '10', '5', '11', '5'], 3)).toContain('5 cells under 3 titles');
		expect(tornRow(['R1', '10', '5', '', ' '], 3)).toBeNull();
		expect(tornRow(['R1'], 3)).toBeNull();
	});
});
