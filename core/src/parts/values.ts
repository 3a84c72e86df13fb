/** What a value is of. */
export const VALUE_KINDS = ['R', 'C', 'L'] as const;
export type ValueKind = (typeof VALUE_KINDS)[number];

/** A value as it is compared: in ohm, farad or henry; or why its text is compared as text only. */
export type PartValue = { value: number; unit: 'Ω' | 'F' | 'H' } | { why: string };

const UNIT = { R: 'Ω', C: 'F', L: 'H' } as const;
const UNIT_WORDS: Record<ValueKind, string> = { R: '(?:Ω|\u2126|[oO][hH][mM][sS]?|R)', C: '[fF]', L: '[hH]' };
/** Letters count: M is a million, m a thousandth. */
const PREFIX: Record<string, number> = { p: 1e-12, n: 1e-9, u: 1e-6, µ: 1e-6, μ: 1e-6, m: 1e-3, R: 1, k: 1e3, K: 1e3, M: 1e6, G: 1e9 };
/** In capital letters, where nothing else could be meant. */
const CAPITALS: Record<string, number> = { P: 1e-12, N: 1e-9, U: 1e-6 };
/** What parts of the kind can have. */
const RANGE: Record<ValueKind, readonly [number, number]> = { R: [0, 1e12], C: [1e-14, 100], L: [1e-12, 1000] };

/** Reads the value of a part as bills write it: 4k7, R47, 2,2µF, 3n3/100V, 104. What follows the value, a voltage or tolerance, is left aside.
 * @returns nothing is guessed: a bare number is a resistance and no capacitance, a comma before three digits is refused
 * @see common practice; the code of three digits is in pF: 104 is 10·10⁴ pF
 * @example readValue('4k7', 'R') // => { value: 4700, unit: 'Ω' }
 */
export function readValue(text: string, kind: ValueKind): PartValue {
	const own = text.trim();
	if (own === '') return { why: 'There is no value.' };
	const prefixes = kind === 'R' ? PREFIX : { ...PREFIX, ...CAPITALS };
	const letters = Object.keys(prefixes).join('');
	const end = '(?=$|[\\s/;,(±%])';
	const code = /^(\d\d)(\d)(?=$|[\s/;(±])/.exec(own);
	if (kind === 'C' && code) return { value: Number(`${code[1]}e${Number(code[2]) - 12}`), unit: 'F' };
	// The letter stands in the place of the decimal sign: 4k7, R47, 0R.
	const inside = new RegExp(`^(\\d*)([${letters}])(\\d*)\\s*${UNIT_WORDS[kind]}?${end}`, 'u').exec(own);
	if (inside && (inside[1] || inside[3])) return checked(`${inside[1] || '0'}.${inside[3] || '0'}`, prefixes[inside[2]!]!, kind, own);
	const plain = new RegExp(`^(\\d+)(?:([.,])(\\d+))?\\s*([${letters}]?)\\s*(${UNIT_WORDS[kind]})?${end}`, 'u').exec(own);
	if (!plain) return { why: `“${own}” is no value of this kind.` };
	const [, whole = '', sign, decimals = '', prefix = '', unit] = plain;
	if (sign === ',' && decimals.length === 3 && whole !== '0')
		return { why: `“${own}” can be read in two ways: is the comma its decimal sign?` };
	if (kind !== 'R' && !prefix && !unit) return { why: `“${own}” has no unit.` };
	return checked(`${whole}.${decimals || '0'}`, prefix ? prefixes[prefix]! : 1, kind, own);
}

function checked(digits: string, times: number, kind: ValueKind, own: string): PartValue {
	const value = Number(`${digits}e${Math.round(Math.log10(times))}`);
	const [least, most] = RANGE[kind];
	return value >= least && value <= most
		? { value, unit: UNIT[kind] }
		: { why: `“${own}” would be ${value} ${UNIT[kind]}: no part has that.` };
}

/** Whether two texts name the same value: by their values where both can be read, else letter by letter. */
export function sameValue(a: string, b: string, kind: ValueKind): boolean {
	const [one, other] = [readValue(a, kind), readValue(b, kind)];
	if ('value' in one && 'value' in other) return Math.abs(one.value - other.value) <= 1e-9 * Math.max(one.value, other.value);
	return a.trim() === b.trim();
}
