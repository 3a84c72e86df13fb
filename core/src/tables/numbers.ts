import type { Delimiter } from './table-file.ts';

export type DecimalSign = '.' | ',';

const UNITS = /\s*(mm|mils?|thou|inch(?:es)?|in|"|um|µm|μm|°|deg|%|°c|°f)?$/i;
/** Blanks and apostrophes between groups of three are no signs at all. */
const GROUPING = /(?<=\d)[ \u00a0\u202f'’](?=\d{3}(?!\d))/g;

/** A number whose decimal sign is a point: its commas, if any, part groups of three. */
const POINT = /^[+-]?(?:(?:[1-9]\d{0,2}(?:,\d{3})+|\d+)(?:\.\d*)?|\.\d+)(?:e[+-]?\d{1,3})?$/i;
const COMMA = /^[+-]?(?:(?:[1-9]\d{0,2}(?:\.\d{3})+|\d+)(?:,\d*)?|,\d+)(?:e[+-]?\d{1,3})?$/i;

/** What is longer, blanks and unit with it, is no number. */
const LONGEST_NUMBER = 60;

/** Digits and signs of a cell without its unit. */
function bare(cell: string): { digits: string; unit: string | null } {
	const trimmed = cell.trim();
	const unit = UNITS.exec(trimmed);
	const digits = unit ? trimmed.slice(0, unit.index) : trimmed;
	return { digits: digits.replace(GROUPING, ''), unit: unit?.[1]?.toLowerCase() ?? null };
}

/** A number with an optional unit: value and unit as written, or null where it is not a number in that writing. Signs that part no groups of three are never
 * passed over: "11,5" is no number where the decimal sign is a point.
 */
export function readNumber(cell: string, sign: DecimalSign): { value: number; unit: string | null } | null {
	if (cell.length > LONGEST_NUMBER) return null;
	const { digits, unit } = bare(cell);
	if (!(sign === '.' ? POINT : COMMA).test(digits)) return null;
	const value = Number(sign === '.' ? digits.replaceAll(',', '') : digits.replaceAll('.', '').replace(',', '.'));
	return Number.isFinite(value) ? { value, unit } : null;
}

/** A value of the file that can be read in two ways. */
export interface ReadBothWays {
	line: number;
	field: string;
	cell: string;
	/** Its value with a decimal point, and with a decimal comma; null where that is no number. */
	point: number | null;
	comma: number | null;
}

export type Decimals = { sign: DecimalSign; ask: null } | { sign: null; ask: ReadBothWays[] };

/** From how many cells on a column speaks for itself. */
const MANY = 8;

/** What the numbers of a whole file say of its decimal sign. A cell proves one where the other reading is no number ("10.5", "1.234,5", "0,250"); "10,250" proves none.
 * Nothing is guessed from one column for another: where proofs disagree, or the only readings of what is left are thousands that nothing else in the file writes, it asks.
 */
export class DecimalEvidence {
	readonly #proof: Partial<Record<DecimalSign, ReadBothWays>> = {};
	/** Cells that read both ways, by the sign that they hold. */
	readonly #open: Partial<Record<DecimalSign, ReadBothWays>> = {};
	/** Whether a cell holds both signs: the file writes thousands. */
	#grouped = false;
	/** Cells of each field that read both ways with a comma, and fields that hold plain digits. */
	readonly #commas = new Map<string, number>();
	readonly #plain = new Set<string>();

	add(field: string, cell: string, line: number): void {
		const comma = cell.includes(',');
		// Nearly every cell: a point more where a point is proven.
		if (!comma && (this.#proof['.'] || !cell.includes('.'))) {
			if (cell.trim() !== '') this.#plain.add(field);
			return;
		}
		if (cell.length > LONGEST_NUMBER) return;
		const { digits } = bare(cell);
		const [point, asComma] = [POINT.test(digits), COMMA.test(digits)];
		if (!point && !asComma) return;
		const both = () => ({
			line,
			field,
			cell: cell.trim(),
			point: readNumber(cell, '.')?.value ?? null,
			comma: readNumber(cell, ',')?.value ?? null
		});
		if (point && asComma) {
			// Plain digits say nothing.
			if (!/[.,]/.test(digits)) return;
			this.#open[comma ? ',' : '.'] ??= both();
			if (comma) this.#commas.set(field, (this.#commas.get(field) ?? 0) + 1);
			return;
		}
		this.#proof[point ? '.' : ','] ??= both();
		if (comma && digits.includes('.')) this.#grouped = true;
	}

	/** Thousands are written only from 1,000 on: a column of many numbers, each with three digits after its comma, has three decimals. */
	get #threeDecimals(): boolean {
		return [...this.#commas].some(([field, n]) => n >= MANY && !this.#plain.has(field));
	}

	/** @param delimiter between the cells: who parts cells by semicolons writes decimal commas */
	decide(delimiter: Delimiter): Decimals {
		const { '.': point, ',': comma } = this.#proof;
		const { '.': openPoint, ',': openComma } = this.#open;
		if (point && comma) return { sign: null, ask: [point, comma] };
		if (point) return openComma && !this.#grouped ? { sign: null, ask: [point, openComma] } : { sign: '.', ask: null };
		if (comma) return openPoint && !this.#grouped ? { sign: null, ask: [comma, openPoint] } : { sign: ',', ask: null };
		if (openPoint && openComma) return { sign: null, ask: [openPoint, openComma] };
		if (openComma) return delimiter === ';' || this.#threeDecimals ? { sign: ',', ask: null } : { sign: null, ask: [openComma] };
		return { sign: '.', ask: null };
	}
}

/** What is asked where a file's decimal sign is not decided: samples read both ways. */
export function askDecimal(ask: readonly ReadBothWays[]): { line: number; field: string; value: string; message: string } {
	const [first] = ask;
	const say = (value: number | null) => (value === null ? 'no number' : String(value));
	const read = ask.map(
		(a) => `line ${a.line}, ${a.field}: "${a.cell}" is ${say(a.point)} with a decimal point, ${say(a.comma)} with a decimal comma`
	);
	return {
		line: first!.line,
		field: 'decimal',
		value: ask.map((a) => a.cell).join(' / '),
		message: `The numbers of this file can be read in two ways: ${read.join('; ')}. Choose the decimal sign.`
	};
}

/** Cells beyond the titles that hold something: a decimal comma or a delimiter in a text cut a cell in two.
 * @returns what is wrong with the row, or null
 */
export function tornRow(cells: readonly string[], titles: number): string | null {
	const filled = cells.findLastIndex((cell) => cell.trim() !== '') + 1;
	return filled > titles
		? `${filled} cells under ${titles} titles: a decimal comma or a text with the delimiter in it stands without quotes`
		: null;
}
