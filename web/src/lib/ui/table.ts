import { csvCell } from '@keen-relay/core/tables';
import type { Say } from '@keen-relay/core/people';
import type { Snippet } from 'svelte';

type Value = string | number | null | undefined;

/** A column of a table: what its rows stand in order by, and how it is shown. */
export interface Column<Row> {
	id: string;
	/** With its unit after the last comma, as it is kept: "Height, µm". Empty for a column of buttons: it is neither sorted by nor written into files. */
	title: string;
	value: (row: Row) => Value;
	/** How it is shown, where that is more than its value. */
	cell?: Snippet<[Row]>;
	/** What is shown as words, where the value only says the order. */
	words?: (row: Row) => string;
	/** Figures to the right; with so many decimals, where it has a unit in the person's. */
	decimals?: number;
	figures?: boolean;
	/** The value is an instant, ms. */
	time?: boolean;
	/** Away until somebody wants it. */
	away?: boolean;
	class?: string;
}

const unitOf = (title: string): string => (title.includes(', ') ? title.slice(title.lastIndexOf(', ') + 2) : '');

/** What stands in a cell, in words. */
export function shownText<Row>(column: Column<Row>, row: Row, say: Say, zone: string): string {
	if (column.words) return say.text(column.words(row));
	const value = column.value(row);
	if (value === null || value === undefined) return '';
	if (typeof value === 'string') return say.text(value);
	if (column.time) return say.dayTime(value, zone);
	const { decimals } = column;
	return decimals === undefined ? say.inField(value, unitOf(column.title)) : say.figure(value, decimals, unitOf(column.title));
}

/** What a file takes of a cell: numbers as numbers in the person's unit, instants as ISO, words as they are shown. */
export function fileValue<Row>(column: Column<Row>, row: Row, say: Say, zone: string): string | number | null {
	const value = column.value(row);
	if (column.words || typeof value === 'string') return shownText(column, row, say, zone);
	if (value === null || value === undefined) return null;
	if (column.time) return new Date(value).toISOString();
	return Number(say.theirs(value, unitOf(column.title)).toPrecision(12));
}

/** A table as comma-separated values, or with semicolons where commas are decimal signs. */
export function csvOf(titles: readonly string[], rows: readonly (readonly (string | number | null)[])[], say: Say): string {
	const comma = say.sign === ',';
	const cell = (value: string | number | null) =>
		value === null ? '' : typeof value === 'number' && comma ? String(value).replace('.', ',') : csvCell(value);
	return [titles, ...rows].map((row) => row.map(cell).join(comma ? ';' : ',')).join('\r\n') + '\r\n';
}

/** Words before numbers before nothing; numbers by size, words as people list them: R2 before R10. */
const words = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
export function inOrder(a: Value, b: Value): number {
	if (a === b) return 0;
	if (a === null || a === undefined) return 1;
	if (b === null || b === undefined) return -1;
	return typeof a === 'number' && typeof b === 'number' ? a - b : words.compare(String(a), String(b));
}
