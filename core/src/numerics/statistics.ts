import { InputError } from '../judgement/index.ts';

/** Arithmetic mean.
 * @throws {InputError} `empty`
 */
export function mean(values: readonly number[]): number {
	if (values.length === 0) throw new InputError('empty', 'values', 'at least one value', values);
	return values.reduce((sum, v) => sum + v, 0) / values.length;
}

/** Spread of a sample about its mean, n − 1.
 * @throws {InputError} `empty`: at least two values
 */
export function standardDeviation(values: readonly number[]): number {
	if (values.length < 2) throw new InputError('empty', 'values', 'at least two values', values.length);
	const centre = mean(values);
	return Math.sqrt(values.reduce((sum, v) => sum + (v - centre) ** 2, 0) / (values.length - 1));
}

/** Median; the mean of the middle two where the count is even.
 * @throws {InputError} `empty`
 */
export function median(values: readonly number[]): number {
	return quantile(values, 0.5);
}

/** Quantile by linear interpolation between order statistics (type 7).
 * @throws {InputError} `empty`
 */
export function quantile(values: readonly number[], p: number): number {
	if (values.length === 0) throw new InputError('empty', 'values', 'at least one value', values);
	const sorted = Float64Array.from(values).sort();
	const at = p * (sorted.length - 1);
	const low = sorted[Math.floor(at)]!;
	const high = sorted[Math.ceil(at)]!;
	return low + (high - low) * (at - Math.floor(at));
}

/** Wilson score interval of a proportion, without continuity correction.
 * @param count successes, 0 <= count <= total
 * @param total trials, > 0
 * @returns lower and upper bound, fractions
 * @throws {InputError} `out-of-range` where count > total or total < 1
 * @see Wilson 1927; checks/quality.test.ts compares with published values
 * @example wilsonInterval(0, 300).high // => 0.012643
 */
export function wilsonInterval(count: number, total: number, z = 1.959963984540054): { low: number; high: number } {
	if (!(total >= 1)) throw new InputError('out-of-range', 'total', 'at least 1', total);
	if (!(count >= 0 && count <= total)) throw new InputError('out-of-range', 'count', `0 to ${total}`, count);
	const p = count / total;
	const z2 = z * z;
	const centre = (p + z2 / (2 * total)) / (1 + z2 / total);
	const half = (z / (1 + z2 / total)) * Math.sqrt((p * (1 - p)) / total + z2 / (4 * total * total));
	return { low: Math.max(0, centre - half), high: Math.min(1, centre + half) };
}

/** Median of the first `count` values of a scratch array by selection, which it reorders. Fast: no sorting, no copy.
 * @returns NaN where count is 0
 */
export function medianInPlace(values: Float64Array, count = values.length): number {
	if (count === 0) return NaN;
	const middle = count >> 1;
	const high = select(values, middle, 0, count - 1);
	if (count % 2) return high;
	// All before `middle` are no larger: the other middle value is the largest of them.
	let low = values[0]!;
	for (let i = 1; i < middle; i++) if (values[i]! > low) low = values[i]!;
	return (low + high) / 2;
}

/** Hoare's selection with the median of three as pivot: the k-th smallest of values[from..to]. */
function select(values: Float64Array, k: number, from: number, to: number): number {
	while (to > from) {
		const mid = (from + to) >> 1;
		const [a, b, c] = [values[from]!, values[mid]!, values[to]!];
		const pivot = a < b ? (b < c ? b : a < c ? c : a) : a < c ? a : b < c ? c : b;
		let i = from;
		let j = to;
		while (i <= j) {
			while (values[i]! < pivot) i++;
			while (values[j]! > pivot) j--;
			if (i <= j) {
				const kept = values[i]!;
				values[i] = values[j]!;
				values[j] = kept;
				i++;
				j--;
			}
		}
		if (k <= j) to = j;
		else if (k >= i) from = i;
		else break;
	}
	return values[k]!;
}

/** Robust spread: 1.4826 · median |x − median|, the standard deviation where values are normal. */
export function madSpread(values: ArrayLike<number>): { centre: number; spread: number } {
	const scratch = Float64Array.from(values);
	const centre = medianInPlace(scratch);
	for (let i = 0; i < scratch.length; i++) scratch[i] = Math.abs(values[i]! - centre);
	return { centre, spread: 1.4826 * medianInPlace(scratch) };
}

/** Pearson correlation; 0 where one of the two does not vary. */
export function correlation(a: readonly number[], b: readonly number[]): number {
	const [ma, mb] = [mean(a), mean(b)];
	let [sab, saa, sbb] = [0, 0, 0];
	for (let i = 0; i < a.length; i++) {
		const [x, y] = [a[i]! - ma, b[i]! - mb];
		sab += x * y;
		saa += x * x;
		sbb += y * y;
	}
	return saa === 0 || sbb === 0 ? 0 : sab / Math.sqrt(saa * sbb);
}
