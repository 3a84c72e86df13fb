import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { mean, seededRandom } from '../numerics/index.ts';
import { chartConstants, individualsChart, judgeChart } from './index.ts';

describe('constants', () => {
	test('they are the moments of the range of n normal values', () => {
		const random = seededRandom(1);
		for (const n of [2, 5, 9]) {
			const ranges = Array.from({ length: 20000 }, () => {
				const values = Array.from({ length: n }, () => random.normal());
				return Math.max(...values) - Math.min(...values);
			});
			const m = mean(ranges);
			const sd = Math.sqrt(mean(ranges.map((r) => (r - m) ** 2)));
			expect(Math.abs(m - chartConstants(n).d2)).toBeLessThan(0.03);
			expect(Math.abs(sd - chartConstants(n).d3)).toBeLessThan(0.03);
		}
	});

	test('c4 corrects the bias of the sample standard deviation', () => {
		const random = seededRandom(2);
		const deviations = Array.from({ length: 20000 }, () => {
			const values = Array.from({ length: 4 }, () => random.normal());
			const m = mean(values);
			return Math.sqrt(values.reduce((sum, v) => sum + (v - m) ** 2, 0) / 3);
		});
		expect(Math.abs(mean(deviations) - chartConstants(4).c4)).toBeLessThan(0.01);
	});

	test.each([0, 1, 2.5, 51, NaN])('a subgroup of %d is refused', (n) => {
		expect(() => chartConstants(n)).toThrow('n: expected a whole number from 2 to 50');
	});
});

describe('individuals chart', () => {
	const values = fc.array(fc.double({ min: -1000, max: 1000, noNaN: true }), { minLength: 2, maxLength: 80 });

	test('limits lie evenly about the centre and move with the values', () => {
		fc.assert(
			fc.property(values, fc.double({ min: -500, max: 500, noNaN: true }), (list, shift) => {
				const chart = individualsChart(list);
				expect(chart.upper - chart.centre).toBeCloseTo(chart.centre - chart.lower, 6);
				const moved = individualsChart(list.map((v) => v + shift));
				expect(moved.centre).toBeCloseTo(chart.centre + shift, 6);
				expect(moved.meanMovingRange).toBeCloseTo(chart.meanMovingRange, 6);
			})
		);
	});

	test('points beyond are exactly those outside, and a point on a limit is inside', () => {
		fc.assert(
			fc.property(values, (list) => {
				const chart = individualsChart(list);
				list.forEach((v, i) => expect(chart.beyond.includes(i)).toBe(v < chart.lower || v > chart.upper));
			})
		);
	});

	test('limits that are set stay: later points do not move them', () => {
		const base = [10, 11, 10, 9, 10, 11, 9, 10];
		const frozen = individualsChart([...base, 30, 31, 32], base.length);
		expect(frozen.centre).toBe(individualsChart(base).centre);
		expect(frozen.beyond).toEqual([8, 9, 10]);
	});

	test('one value has no moving range', () => {
		expect(() => individualsChart([5])).toThrow('values: expected at least two values');
	});

	test('a steady process leaves its limits about once in 370 points', () => {
		const random = seededRandom(5);
		let beyond = 0;
		for (let run = 0; run < 100; run++) beyond += individualsChart(Array.from({ length: 200 }, () => random.normal())).beyond.length;
		// 20 000 points: 54 expected; estimated limits spread that a little.
		expect(beyond).toBeGreaterThan(25);
		expect(beyond).toBeLessThan(110);
	});
});

describe('what a chart says', () => {
	const random = seededRandom(8);
	const steady = Array.from({ length: 40 }, () => 98 + random.normal());

	test('too few panels: no data, and how many more', () => {
		expect(judgeChart('Mean volume', '%', []).chart).toBeNull();
		expect(judgeChart('Mean volume', '%', steady.slice(0, 15)).verdict).toMatchObject({
			level: 'noData',
			doNext: ['Wait for 5 more panels']
		});
	});

	test('steady is good and shows its limits', () => {
		const { verdict } = judgeChart('Mean volume', '%', steady);
		expect(verdict.level).toBe('good');
		expect(verdict.because[0]!.limit).toMatch(/^9\d\.\d to 10\d\.\d$/);
		expect(verdict.because[0]!.formula).toContain('/ 1.128');
	});

	test('a point beyond is watched while it is recent, and says how long ago it was', () => {
		expect(judgeChart('Mean volume', '%', [...steady, 120]).verdict.statement).toContain('on the latest panel');
		expect(judgeChart('Mean volume', '%', [...steady, 120, 98, 98, 98]).verdict.statement).toContain('3 panels ago');
		const longAgo = [...steady, 120, ...Array.from({ length: 12 }, () => 98)];
		expect(judgeChart('Mean volume', '%', longAgo).verdict).toMatchObject({
			level: 'good',
			statement: 'Mean volume is steady; one earlier panel lay outside.'
		});
	});
});
