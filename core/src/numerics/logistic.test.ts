import { describe, expect, test } from 'vitest';
import { fitLogistic, invertPositive, logisticProbability, seededRandom } from './index.ts';

describe('inverse of a positive definite matrix', () => {
	test('matrix times inverse is the unit matrix', () => {
		const random = seededRandom(5);
		for (let trial = 0; trial < 20; trial++) {
			const n = 1 + random.integer(5);
			const b = Array.from({ length: n }, () => Array.from({ length: n }, () => random.normal()));
			const a = b.map((row, i) => b.map((other, j) => row.reduce((s, v, k) => s + v * other[k]!, 0) + (i === j ? 0.5 : 0)));
			const inverse = invertPositive(a);
			a.forEach((row, i) =>
				a.forEach((_, j) => expect(row.reduce((s, v, k) => s + v * inverse[k]![j]!, 0)).toBeCloseTo(i === j ? 1 : 0, 9))
			);
		}
	});
	test('a matrix by hand', () => {
		expect(
			invertPositive([
				[4, 2],
				[2, 3]
			]).flat()
		).toEqual([expect.closeTo(0.375), expect.closeTo(-0.25), expect.closeTo(-0.25), expect.closeTo(0.5)]);
	});
	test('one that is not positive definite is refused by its place', () => {
		expect(() =>
			invertPositive([
				[1, 2],
				[2, 4]
			])
		).toThrow('matrix[1]');
	});
});

describe('logistic regression', () => {
	test('two groups: the fitted chances are the shares, the slope is the log odds ratio', () => {
		// 10 of 40 against 30 of 40.
		const fit = fitLogistic(
			[
				[1, 0],
				[1, 0],
				[1, 1],
				[1, 1]
			],
			[1, 0, 1, 0],
			[10, 30, 30, 10]
		);
		expect(fit.converged).toBe(true);
		expect(logisticProbability(fit.coefficients, [1, 0])).toBeCloseTo(0.25, 3);
		expect(logisticProbability(fit.coefficients, [1, 1])).toBeCloseTo(0.75, 3);
		expect(fit.coefficients[1]).toBeCloseTo(Math.log(9), 2);
		// Standard error of a log odds ratio: √(Σ 1/n) over the four cells.
		expect(Math.sqrt(fit.covariance[1]![1]!)).toBeCloseTo(Math.sqrt(1 / 10 + 1 / 30 + 1 / 30 + 1 / 10), 2);
	});
	test('finds the coefficients that made the outcomes', () => {
		const random = seededRandom(11);
		const truth = [-2, 1.2, -0.8];
		const rows = Array.from({ length: 20_000 }, () => [1, random.normal(), random.normal()]);
		const y = rows.map((x) => Number(random.uniform() < logisticProbability(truth, x)));
		const fit = fitLogistic(
			rows,
			y,
			rows.map(() => 1)
		);
		fit.coefficients.forEach((b, j) => expect(Math.abs(b - truth[j]!)).toBeLessThan(4 * Math.sqrt(fit.covariance[j]![j]!)));
	});
	test('a row of weight three counts as three rows', () => {
		const rows = [
			[1, 0.2],
			[1, 1.4],
			[1, 0.9],
			[1, 2]
		];
		const y = [0, 1, 1, 0];
		const once = fitLogistic(rows, y, [3, 1, 2, 1]);
		const copied = [0, 0, 0, 1, 2, 2, 3];
		const many = fitLogistic(
			copied.map((i) => rows[i]!),
			copied.map((i) => y[i]!),
			copied.map(() => 1)
		);
		once.coefficients.forEach((b, j) => expect(b).toBeCloseTo(many.coefficients[j]!, 9));
	});
	test('outcomes that one column separates stay finite', () => {
		const fit = fitLogistic(
			[
				[1, -1],
				[1, -2],
				[1, 1],
				[1, 2]
			],
			[0, 0, 1, 1],
			[1, 1, 1, 1]
		);
		expect(fit.coefficients.every(Number.isFinite)).toBe(true);
		expect(logisticProbability(fit.coefficients, [1, 2])).toBeGreaterThan(0.9);
	});
	test('one outcome only, or lengths that differ, are refused', () => {
		expect(() => fitLogistic([[1], [1]], [0, 0], [1, 1])).toThrow('both outcomes');
		expect(() => fitLogistic([[1], [1]], [0, 1], [1])).toThrow('2 outcomes and weights');
	});
});
