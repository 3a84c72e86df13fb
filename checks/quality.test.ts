import { describe, expect, test } from 'vitest';
import { chartConstants, individualsChart } from '@keen-relay/core/control';
import { wilsonInterval } from '@keen-relay/core/numerics';

/** Factors for control charts, ASTM E2587 / ISO 7870-2 (values from memory). */
describe('control chart constants', () => {
	test.each([
		{ n: 2, A2: 1.88, D3: 0, D4: 3.267, d2: 1.128, d3: 0.853, c4: 0.7979 },
		{ n: 3, A2: 1.023, D3: 0, D4: 2.575, d2: 1.693, d3: 0.888, c4: 0.8862 },
		{ n: 5, A2: 0.577, D3: 0, D4: 2.115, d2: 2.326, d3: 0.864, c4: 0.94 },
		{ n: 8, A2: 0.373, D3: 0.136, D4: 1.864, d2: 2.847, d3: 0.82, c4: 0.965 },
		{ n: 10, A2: 0.308, D3: 0.223, D4: 1.777, d2: 3.078, d3: 0.797, c4: 0.9727 },
		{ n: 25, A2: 0.153, D3: 0.459, D4: 1.541, d2: 3.931, d3: 0.708, c4: 0.9896 }
	])('n = $n', ({ n, ...printed }) => {
		const found = chartConstants(n);
		// One unit of the last printed digit: n = 3 and n = 5 stand both ways in print.
		for (const [name, value] of Object.entries(printed))
			expect(Math.abs(found[name as keyof typeof found] - value), name).toBeLessThan(0.0011);
	});
});

/** NIST/SEMATECH e-Handbook, individuals chart example (from memory, recomputed). */
test('individuals chart of the handbook example', () => {
	const chart = individualsChart([49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1]);
	expect(chart.centre).toBeCloseTo(50.81, 2);
	expect(chart.meanMovingRange).toBeCloseTo(1.878, 3);
	expect(chart.lower).toBeCloseTo(45.82, 1);
	expect(chart.upper).toBeCloseTo(55.8, 1);
	expect(chart.beyond).toEqual([]);
});

/** Newcombe 1998, Statistics in Medicine 17, table of intervals for one proportion (from memory): 0 of 20 has the Wilson upper limit 0.1611. */
test('Wilson interval', () => {
	expect(wilsonInterval(0, 20).high).toBeCloseTo(0.1611, 4);
	expect(wilsonInterval(3, 214).low).toBeCloseTo(0.004779, 6);
	expect(wilsonInterval(3, 214).high).toBeCloseTo(0.040398, 6);
	expect(wilsonInterval(0, 300).high).toBeCloseTo(0.012643, 6);
});
