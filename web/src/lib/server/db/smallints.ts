/** OID of smallint[]. */
export const SMALLINT_ARRAY: number = 1005;

const [MINUS, ZERO, NINE] = ['-', '0', '9'].map((c) => c.charCodeAt(0)) as [number, number, number];

/** A smallint[] as PostgreSQL writes it, such as {12,-3,40}: a panel's readings are a hundred thousand of these numbers, and the general reader of arrays takes
 * ten times as long.
 * @throws {Error} where it is no list of whole numbers: none of our columns holds a null or a second dimension
 */
export function readSmallints(text: string): number[] {
	const numbers: number[] = [];
	if (text === '{}') return numbers;
	const refuse = (): never => {
		throw new Error(`not a list of whole numbers: ${text.slice(0, 60)}`);
	};
	if (!text.startsWith('{') || !text.endsWith('}')) refuse();
	let [value, negative, digits] = [0, false, 0];
	// The brace at the end closes the last number, as a comma does the others.
	for (let i = 1; i < text.length; i++) {
		const code = text.charCodeAt(i);
		if (code >= ZERO && code <= NINE) {
			value = value * 10 + code - ZERO;
			digits++;
		} else if (code === MINUS && digits === 0 && !negative) negative = true;
		else {
			if (digits === 0 || (text[i] !== ',' && i < text.length - 1)) refuse();
			numbers.push(negative ? -value : value);
			[value, negative, digits] = [0, false, 0];
		}
	}
	return numbers;
}
