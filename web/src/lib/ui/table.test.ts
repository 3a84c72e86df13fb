import { sayFor } from '@keen-relay/core/people';
import { expect, test } from 'vitest';
import { csvOf, fileValue, inOrder, shownText, type Column } from './table.ts';

interface Row {
	name: string;
	mm: number | null;
	at: number;
}
const row: Row = { name: 'R10, 5 mm away', mm: 25.4, at: Date.UTC(2026, 10, 27, 12) };
const NAME: Column<Row> = { id: 'name', title: 'Name', value: (r) => r.name };
const WIDTH: Column<Row> = { id: 'mm', title: 'Width, mm', value: (r) => r.mm, decimals: 1 };
const AT: Column<Row> = { id: 'at', title: 'When', value: (r) => r.at, time: true };
const german = sayFor({ locale: 'de-DE', units: 'metric' });
const american = sayFor({ locale: 'en-US', units: 'customary' });

test('cells are said in the person’s units, files hold numbers and instants', () => {
	expect([NAME, WIDTH, AT].map((c) => shownText(c, row, german, 'Europe/Berlin'))).toEqual(['R10, 5 mm away', '25,4', '27 Nov 13:00']);
	expect(shownText(WIDTH, row, american, 'UTC')).toBe('1.00');
	expect([WIDTH, AT].map((c) => fileValue(c, row, american, 'UTC'))).toEqual([1, '2026-11-27T12:00:00.000Z']);
	expect(fileValue(WIDTH, { ...row, mm: null }, american, 'UTC')).toBeNull();
});

test('a file has semicolons where commas are decimal signs; nothing in it runs as a formula', () => {
	expect(csvOf(['Name', 'Width, mm'], [['=1+1', 0.25]], german)).toBe('Name;"Width, mm"\r\n\'=1+1;0,25\r\n');
	expect(
		csvOf(
			['Name', 'Width'],
			[
				['a,b', 0.25],
				['', null]
			],
			american
		)
	).toBe('Name,Width\r\n"a,b",0.25\r\n,\r\n');
});

test('numbers by size, words as people list them, nothing last', () => {
	expect([10, 9, null, 100].sort(inOrder)).toEqual([9, 10, 100, null]);
	expect(['R10', 'r2', 'C1'].sort(inOrder)).toEqual(['C1', 'r2', 'R10']);
	expect(inOrder(undefined, 3)).toBe(1);
	expect(inOrder(3, undefined)).toBe(-1);
	expect(inOrder(null, null)).toBe(0);
});
