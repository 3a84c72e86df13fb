import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { chartConstants, classCapability, cpk, ewmaChart, individualsChart, judgeChart, offsetCorrection } from './index.ts';

describe('factors of control charts', () => {
	// ASTM E2587, table of factors (values from memory).
	test.each([
		[2, 1.128, 0.853, 0.7979, 1.88, 0, 3.267],
		[3, 1.693, 0.888, 0.8862, 1.023, 0, 2.574],
		[5, 2.326, 0.864, 0.94, 0.577, 0, 2.114],
		[7, 2.704, 0.833, 0.9594, 0.419, 0.076, 1.924],
		[10, 3.078, 0.797, 0.9727, 0.308, 0.223, 1.777],
		[25, 3.931, 0.708, 0.9896, 0.153, 0.459, 1.541]
	])('subgroups of %d', (n, d2, d3, c4, A2, D3, D4) => {
		const c = chartConstants(n);
		expect(c.d2).toBeCloseTo(d2, 3);
		expect(c.d3).toBeCloseTo(d3, 3);
		expect(c.c4).toBeCloseTo(c4, 4);
		expect(c.A2).toBeCloseTo(A2, 2);
		expect(c.D3).toBeCloseTo(D3, 2);
		expect(c.D4).toBeCloseTo(D4, 2);
	});

	test('from 2 to 50, whole', () => {
		expect(() => chartConstants(2)).not.toThrow();
		expect(() => chartConstants(50)).not.toThrow();
		expect(() => chartConstants(1)).toThrow('n: expected');
		expect(() => chartConstants(51)).toThrow('n: expected');
	});
});

describe('an individuals chart by hand', () => {
	const values = [10, 12, 11, 13, 12, 10];

	test('ranges 2 1 2 1 2, mean 1.6: limits 3·1.6/1.128 about 11.33', () => {
		const chart = individualsChart(values);
		expect(chart.meanMovingRange).toBeCloseTo(1.6, 12);
		expect(chart.centre).toBeCloseTo(68 / 6, 12);
		expect(chart.upper - chart.centre).toBeCloseTo(4.8 / 1.128, 12);
		expect(chart.centre - chart.lower).toBeCloseTo(4.8 / 1.128, 12);
	});

	test('a point on a limit is inside, one a hair beyond is not, on either side', () => {
		const { upper, lower } = individualsChart(values);
		const beyond = (v: number) => individualsChart([...values, v], values.length).beyond;
		expect(beyond(upper)).toEqual([]);
		expect(beyond(upper + 1e-9)).toEqual([6]);
		expect(beyond(lower)).toEqual([]);
		expect(beyond(lower - 1e-9)).toEqual([6]);
	});

	test('a baseline of one is two; fewer than two values have none', () => {
		expect(individualsChart(values, 1).baseline).toBe(2);
		expect(() => individualsChart([1])).toThrow('at least two values');
	});
});

describe('what a chart says', () => {
	const steady = (n: number) => Array.from({ length: n }, (_, i) => 100 + (i % 2));

	test('nineteen points wait for one more, twenty are judged', () => {
		expect(judgeChart('Mean', '%', steady(19)).verdict).toMatchObject({ level: 'noData', doNext: ['Wait for 1 more panels'] });
		expect(judgeChart('Mean', '%', steady(20)).verdict.level).toBe('good');
		expect(judgeChart('Mean', '%', [100]).chart).toBeNull();
	});

	test('a point counts while it is among the latest ten', () => {
		const at = (ago: number) => {
			const values = steady(60);
			values[59 - ago] = 130;
			return judgeChart('Mean', '%', values).verdict;
		};
		expect(at(0)).toMatchObject({ level: 'watch', statement: 'Mean left its limits on the latest panel.' });
		expect(at(9)).toMatchObject({ level: 'watch', statement: 'Mean left its limits 9 panels ago.' });
		expect(at(10)).toMatchObject({ level: 'good', statement: 'Mean is steady; one earlier panel lay outside.' });
	});

	test('limits come from the first forty panels and stay there', () => {
		const shifted = [...steady(40), ...steady(20).map((v) => v + 10)];
		expect(judgeChart('Mean', '%', shifted).chart).toMatchObject({ baseline: 40 });
		expect(judgeChart('Mean', '%', shifted).verdict.level).toBe('watch');
		expect(judgeChart('Mean', '%', steady(30)).chart!.baseline).toBe(30);
	});
});

describe('weighted average', () => {
	test('by hand: λ = 0.25 from 100, values 104 and 100', () => {
		const chart = ewmaChart([104, 100], 100, 2, 0.25, 3);
		expect(chart.points).toEqual([101, 100.75]);
		expect(chart.finalReach).toBeCloseTo(6 * Math.sqrt(0.25 / 1.75), 12);
		expect(chart.reach[0]).toBeCloseTo(6 * Math.sqrt(0.25 / 1.75) * Math.sqrt(1 - 0.75 ** 2), 12);
		// The first limit is the same as one point's: L·σ·λ.
		expect(chart.reach[0]).toBeCloseTo(6 * 0.25, 12);
	});

	test('on the limit is inside; λ from just above 0 to 1, a spread above 0', () => {
		expect(ewmaChart([106], 100, 2, 1, 3).beyond).toEqual([]);
		expect(ewmaChart([106.0001], 100, 2, 1, 3).beyond).toEqual([0]);
		expect(ewmaChart([93.9999], 100, 2, 1, 3).beyond).toEqual([0]);
		expect(() => ewmaChart([1], 0, 1, 0)).toThrow('lambda');
		expect(() => ewmaChart([1], 0, 1, 1.01)).toThrow('lambda');
		expect(() => ewmaChart([1], 0, 0)).toThrow('sigma');
	});
});

describe('capability by hand', () => {
	test('the nearer limit counts, over three spreads', () => {
		expect(cpk(93, 9, 60, 140, 120).cpk).toBeCloseTo(33 / 27, 12);
		expect(cpk(107, 9, 60, 140, 120).cpk).toBeCloseTo(33 / 27, 12);
		const { cpk: value, cpkLower } = cpk(93, 9, 60, 140, 120);
		expect(cpkLower).toBeCloseTo(value - 1.6448536 * Math.sqrt(1 / 1080 + value ** 2 / 238), 6);
		expect(() => cpk(1, 1, 0, 2, 1)).toThrow('n: expected');
		expect(() => cpk(1, 1, 0, 2, 2)).not.toThrow();
		expect(() => cpk(1, 0, 0, 2, 9)).toThrow('sigma');
	});

	test('two pads of three readings: six readings, four free', () => {
		const c = classCapability([[9, 10, 11], [19, 20, 21], [5]], 0, 30)!;
		// 2 + 2 over 2 + 2.
		expect(c.sigma).toBeCloseTo(1, 12);
		expect(c.n).toBe(7);
		expect(c.mean).toBeCloseTo(95 / 7, 12);
		expect(c.remark).toBe('n too small: 7 readings');
	});

	test('remarks: 49 readings are too few, 50 are not; percentiles from 1000 on', () => {
		const of = (n: number) => classCapability([Array.from({ length: n }, (_, i) => 100 + (i % 7))], 60, 140)!;
		expect(of(49).remark).toContain('too small');
		expect(of(50).remark).toBe('percentiles need 1000 readings, there are 50');
		expect(of(999).ppkPercentile).toBeNull();
		expect(of(1000).ppkPercentile).not.toBeNull();
		expect(of(1000).remark).toBe('');
		expect(classCapability([[5, 5, 5]], 0, 10)).toBeNull();
		expect(classCapability([[5], [6]], 0, 10)).toBeNull();
	});
});

describe('the correction of an offset', () => {
	const offsets = (front: number[], rear: number[]) => [
		...front.map((offsetUm) => ({ offsetUm, stroke: 'F' })),
		...rear.map((offsetUm) => ({ offsetUm, stroke: 'R' }))
	];

	test('front and rear count alike, however many of each there were', () => {
		expect(offsetCorrection(offsets([40, 40, 40, 40], [0])).meanUm).toBe(20);
		expect(offsetCorrection(offsets([40, 40, 40, 40], [0])).correctionUm).toBeCloseTo(-6, 12);
	});

	test('10 µm is left alone, a hair more is taken back by a share; either way', () => {
		expect(offsetCorrection(offsets([10], [10])).correctionUm).toBe(0);
		expect(offsetCorrection(offsets([10.01], [10.01])).correctionUm).toBeCloseTo(-3.003, 12);
		expect(offsetCorrection(offsets([-10.01], [-10.01])).correctionUm).toBeCloseTo(3.003, 12);
		expect(offsetCorrection([]).correctionUm).toBe(0);
	});

	test('noise is widened by √(2/(2−λ)) (property: never narrowed)', () => {
		expect(offsetCorrection([], 1).noiseSdFactor).toBeCloseTo(Math.SQRT2, 12);
		expect(offsetCorrection([], 0.3).noiseSdFactor).toBeCloseTo(Math.sqrt(2 / 1.7), 12);
		fc.assert(fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (lambda) => offsetCorrection([], lambda).noiseSdFactor >= 1));
	});
});
