import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
	correlation,
	exactInterval,
	fitCurve,
	leastSquares,
	madSpread,
	median,
	medianInPlace,
	normalCdf,
	normalQuantile,
	seededRandom,
	studentQuantile,
	wilsonInterval
} from './index.ts';

const number = fc.double({ min: -1e3, max: 1e3, noNaN: true });

describe('robust statistics', () => {
	test('selection gives the median that sorting gives (property)', () => {
		fc.assert(
			fc.property(fc.array(number, { minLength: 1, maxLength: 60 }), (values) => {
				expect(medianInPlace(Float64Array.from(values))).toBeCloseTo(median(values), 9);
			})
		);
		expect(medianInPlace(Float64Array.of(5, 1, 9, 7), 2)).toBe(3);
		expect(medianInPlace(new Float64Array(4), 0)).toBeNaN();
	});

	test('one wild value hardly moves the robust spread', () => {
		const random = seededRandom(3);
		const values = Array.from({ length: 201 }, () => 10 + 2 * random.normal());
		const calm = madSpread(values);
		const wild = madSpread([...values.slice(1), 1e6]);
		expect(calm.spread).toBeCloseTo(2, 0);
		expect(Math.abs(wild.spread - calm.spread)).toBeLessThan(0.1);
		expect(Math.abs(wild.centre - calm.centre)).toBeLessThan(0.1);
	});

	test('correlation: 1 with itself, −1 with its mirror, 0 where nothing varies', () => {
		const x = [1, 4, 2, 8, 5];
		expect(correlation(x, x)).toBeCloseTo(1, 12);
		expect(
			correlation(
				x,
				x.map((v) => -3 * v)
			)
		).toBeCloseTo(-1, 12);
		expect(correlation(x, [2, 2, 2, 2, 2])).toBe(0);
	});
});

describe('least squares', () => {
	test('residuals stand upright on every column (property)', () => {
		const rows = fc.array(fc.tuple(number, number), { minLength: 5, maxLength: 30 });
		fc.assert(
			fc.property(rows, fc.integer(), (pairs, seed) => {
				const random = seededRandom(seed);
				const x = pairs.map(([a]) => [1, a + random.uniform()]);
				const spread = Math.max(...x.map((r) => r[1]!)) - Math.min(...x.map((r) => r[1]!));
				fc.pre(spread > 1);
				const fit = leastSquares(
					x,
					pairs.map(([, b]) => b)
				);
				for (const column of [0, 1]) {
					const dot = fit.residuals.reduce((sum, r, i) => sum + r * x[i]![column]!, 0);
					expect(Math.abs(dot)).toBeLessThan(1e-5 * (1 + Math.max(...pairs.map(([, b]) => Math.abs(b))) * 1000));
				}
			})
		);
	});

	test('an exact line comes back exactly; too few rows and twin columns are refused', () => {
		const x = [0, 1, 2, 3].map((v) => [1, v]);
		expect(leastSquares(x, [2, 5, 8, 11]).coefficients).toEqual([expect.closeTo(2, 12), expect.closeTo(3, 12)]);
		expect(() => leastSquares([[1, 2]], [3])).toThrow('at least 2 rows');
		expect(() => leastSquares(x, [1, 2])).toThrow('y');
		expect(() =>
			leastSquares(
				x.map(([a, b]) => [a!, b!, a! + b!]),
				[1, 2, 3, 4]
			)
		).toThrow('does not depend');
	});

	test('a curve is found again from its own values, inside its bounds (property)', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.5, max: 3, noNaN: true }), fc.double({ min: 0.2, max: 2, noNaN: true }), (a, k) => {
				const x = Array.from({ length: 25 }, (_, i) => i * 0.2);
				const fit = fitCurve(
					([p, q], i) => p! * Math.exp(-q! * x[i]!),
					x.map((v) => a * Math.exp(-k * v)),
					x.map(() => 1),
					[1, 1],
					[
						[0, 10],
						[0.05, 5]
					]
				);
				expect(fit.parameters[0]).toBeCloseTo(a, 4);
				expect(fit.parameters[1]).toBeCloseTo(k, 4);
			}),
			{ numRuns: 30 }
		);
		const held = fitCurve(([p], i) => p! + 0 * i, [9, 9, 9], [1, 1, 1], [1], [[0, 5]]);
		expect(held.parameters).toEqual([5]);
	});
});

describe('distributions', () => {
	test('quantile and distribution undo each other (property)', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.001, max: 0.999, noNaN: true }), (p) => {
				expect(normalCdf(normalQuantile(p))).toBeCloseTo(p, 9);
			}),
			{ numRuns: 40 }
		);
		expect(normalCdf(-1.2) + normalCdf(1.2)).toBeCloseTo(1, 14);
	});

	test('Student’s t is wider than the normal and goes over into it', () => {
		expect(studentQuantile(0.95, 4)).toBeGreaterThan(studentQuantile(0.95, 40));
		expect(studentQuantile(0.95, 100_000)).toBeCloseTo(normalQuantile(0.95), 3);
		expect(studentQuantile(0.05, 7)).toBeCloseTo(-studentQuantile(0.95, 7), 9);
		expect(() => studentQuantile(1, 5)).toThrow('p');
	});

	test('the exact interval is never narrower than it must be: it holds Wilson’s centre (property)', () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 1, max: 200 }), (a, total) => {
				const count = Math.min(a, total);
				const exact = exactInterval(count, total);
				expect(exact.low).toBeLessThanOrEqual(count / total + 1e-9);
				expect(exact.high).toBeGreaterThanOrEqual(count / total - 1e-9);
				expect(exact.high - exact.low).toBeGreaterThan(0.8 * (wilsonInterval(count, total).high - wilsonInterval(count, total).low));
			}),
			{ numRuns: 40 }
		);
	});
});
