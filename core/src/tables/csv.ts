/** What a spreadsheet takes for a formula, and would run. */
const FORMULA = /^[=+\-@\t\r]/;

/** A cell of a table that we write: quoted where it has to be; a text that a spreadsheet would run as a formula begins with an apostrophe, which it shows as text.
 * @example csvCell('=1+1').length // => 5
 */
export function csvCell(value: string | number): string {
	if (typeof value === 'number') return Number.isNaN(value) ? '' : String(value);
	const text = FORMULA.test(value) && !/^[+-]?[\d.]+$/.test(value) ? `'${value}` : value;
	return /[",;\r\n\t]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text;
}
