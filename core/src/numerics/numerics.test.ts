import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { InputError } from '../judgement/index.ts';
import { mean, median, quantile, seededRandom, wilsonInterval } from './index.ts';

describe('statistics', () => {
	const values = fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 60 });

	test('a median has as many values below as above', () => {
		fc.assert(
			fc.property(values, (list) => {
				const m = median(list);
				expect(list.filter((v) => v < m).length).toBeLessThanOrEqual(list.length / 2);
				expect(list.filter((v) => v > m).length).toBeLessThanOrEqual(list.length / 2);
			})
		);
	});

	test('quantiles run from the smallest to the largest and never fall', () => {
		fc.assert(
			fc.property(values, (list) => {
				expect(quantile(list, 0) - Math.min(...list)).toBeCloseTo(0, 9);
				expect(quantile(list, 1) - Math.max(...list)).toBeCloseTo(0, 9);
				expect(quantile(list, 0.3)).toBeLessThanOrEqual(quantile(list, 0.7));
			})
		);
	});

	test('type 7 interpolation between order statistics', () => {
		expect(quantile([1, 2, 3, 4], 0.25)).toBe(1.75);
		expect(quantile([10, 20], 0.5)).toBe(15);
		expect(median([3, 1, 2])).toBe(2);
		expect(mean([1, 2, 6])).toBe(3);
	});

	test('nothing to average is an error that says so', () => {
		expect(() => mean([])).toThrow('values: expected at least one value');
		expect(() => median([])).toThrow(InputError);
	});

	test('a Wilson interval holds its proportion, lies in [0, 1] and narrows with more trials', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 5000 }), fc.double({ min: 0, max: 1, noNaN: true }), (total, share) => {
				const count = Math.round(total * share);
				const { low, high } = wilsonInterval(count, total);
				expect(low).toBeGreaterThanOrEqual(0);
				expect(high).toBeLessThanOrEqual(1);
				expect(low).toBeLessThanOrEqual(count / total + 1e-12);
				expect(high).toBeGreaterThanOrEqual(count / total - 1e-12);
				const more = wilsonInterval(count * 4, total * 4);
				expect(more.high - more.low).toBeLessThan(high - low);
			})
		);
	});

	test('an interval is symmetric: defects and passes are two views of one thing', () => {
		const defects = wilsonInterval(7, 120);
		const passes = wilsonInterval(113, 120);
		expect(defects.low).toBeCloseTo(1 - passes.high, 12);
		expect(defects.high).toBeCloseTo(1 - passes.low, 12);
	});

	test('impossible counts are refused by name', () => {
		expect(() => wilsonInterval(3, 0)).toThrow('total: expected at least 1, received 0');
		expect(() => wilsonInterval(5, 4)).toThrow('count: expected 0 to 4, received 5');
		expect(() => wilsonInterval(-1, 4)).toThrow('count');
	});
});

describe('random numbers', () => {
	test('uniform values lie in [0, 1) and fill it evenly', () => {
		const random = seededRandom(3);
		const bins = new Array<number>(10).fill(0);
		for (let i = 0; i < 20000; i++) {
			const u = random.uniform();
			expect(u >= 0 && u < 1).toBe(true);
			bins[Math.floor(u * 10)]!++;
		}
		// Each bin holds 2000 ± 5 standard deviations.
		for (const n of bins) expect(Math.abs(n - 2000)).toBeLessThan(215);
	});

	test('integers cover their range and nothing else', () => {
		const random = seededRandom(9);
		const seen = new Set(Array.from({ length: 500 }, () => random.integer(6)));
		expect([...seen].sort()).toEqual([0, 1, 2, 3, 4, 5]);
	});

	test('chance(p) is true with about that share', () => {
		const random = seededRandom(11);
		const hits = Array.from({ length: 10000 }, () => random.chance(0.2)).filter(Boolean).length;
		expect(Math.abs(hits - 2000)).toBeLessThan(200);
		expect(random.chance(0)).toBe(false);
	});

	test('neighbouring seeds give unrelated sequences', () => {
		const first = [1, 2, 3, 4, 5].map((seed) => seededRandom(seed).uniform());
		expect(new Set(first).size).toBe(5);
		const a = seededRandom(1);
		const b = seededRandom(2);
		const product = mean(Array.from({ length: 4000 }, () => a.normal() * b.normal()));
		expect(Math.abs(product)).toBeLessThan(0.08);
	});
});
