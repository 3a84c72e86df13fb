import { InputError } from '../judgement/index.ts';

/** Arithmetic mean.
 * @throws {InputError} `empty`
 */
export function mean(values: readonly number[]): number {
	if (values.length === 0) throw new InputError('empty', 'values', 'at least one value', values);
	return values.reduce((sum, v) => sum + v, 0) / values.length;
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
 * @example wilsonInterval(0, 300).high // => 0.012643...
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
