import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import { classCapability, cpk, ewmaChart, offsetCorrection } from './index.ts';

describe('weighted average chart', () => {
	test('λ = 1 is the values themselves; a small shift shows sooner with a small λ', () => {
		const random = seededRandom(8);
		const values = Array.from({ length: 60 }, (_, i) => (i < 30 ? 0 : 0.9) + random.normal());
		expect(ewmaChart(values, 0, 1, 1).points).toEqual(values);
		const slow = ewmaChart(values, 0, 1, 0.2).beyond.filter((i) => i >= 30).length;
		const raw = ewmaChart(values, 0, 1, 1).beyond.filter((i) => i >= 30).length;
		expect(slow).toBeGreaterThan(raw);
	});

	test('limits widen from the first point and end where they must (property)', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.05, max: 1, noNaN: true }), (lambda) => {
				const { reach, finalReach } = ewmaChart(new Array<number>(200).fill(0), 0, 2, lambda);
				for (let i = 1; i < reach.length; i++) expect(reach[i]).toBeGreaterThanOrEqual(reach[i - 1]! - 1e-12);
				expect(reach.at(-1)).toBeCloseTo(finalReach, 3);
			})
		);
		expect(() => ewmaChart([1], 0, 0)).toThrow('sigma');
		expect(() => ewmaChart([1], 0, 1, 2)).toThrow('lambda');
	});
});

describe('capability', () => {
	test('pads that differ from each other do not widen the spread: it is pooled within each pad', () => {
		const random = seededRandom(4);
		const pads = Array.from({ length: 10 }, (_, p) => Array.from({ length: 30 }, () => 80 + 4 * p + 2 * random.normal()));
		const c = classCapability(pads, 50, 150)!;
		expect(c.sigma).toBeCloseTo(2, 0);
		expect(c.n).toBe(300);
		expect(c.ppkPercentile).toBeNull();
		expect(c.remark).toContain('1000');
	});

	test('few readings are said to be few, none give nothing', () => {
		expect(classCapability([[90, 91, 92]], 60, 140)!.remark).toContain('n too small');
		expect(classCapability([[90], [91]], 60, 140)).toBeNull();
		expect(classCapability([[90, 90]], 60, 140)).toBeNull();
	});

	test('a lower bound lies below, and closer with more readings (property)', () => {
		fc.assert(
			fc.property(fc.double({ min: 70, max: 130, noNaN: true }), fc.double({ min: 1, max: 20, noNaN: true }), (m, s) => {
				const few = cpk(m, s, 60, 140, 20);
				const many = cpk(m, s, 60, 140, 2000);
				expect(few.cpk).toBeCloseTo(many.cpk, 12);
				expect(few.cpkLower).toBeLessThan(many.cpkLower);
				expect(many.cpkLower).toBeLessThan(many.cpk);
			})
		);
	});
});

describe('correcting the print offset', () => {
	test('inside the deadband nothing is touched; beyond it a share of the mean is taken back', () => {
		const at = (offsetUm: number) => ['F', 'R', 'F', 'R'].map((stroke) => ({ offsetUm, stroke }));
		expect(offsetCorrection(at(8)).correctionUm).toBe(0);
		expect(offsetCorrection(at(40)).correctionUm).toBeCloseTo(-12, 9);
	});

	test('damped correction leaves noise nearly as it was; full correction widens it by what it says', () => {
		const simulate = (lambda: number) => {
			const random = seededRandom(12);
			let place = 0;
			let squares = 0;
			const n = 20_000;
			for (let i = 0; i < n; i++) {
				const seen = place + 10 * random.normal();
				squares += seen * seen;
				place += offsetCorrection([{ offsetUm: seen, stroke: 'F' }], lambda, 0).correctionUm;
			}
			return Math.sqrt(squares / n) / 10;
		};
		for (const lambda of [0.3, 1]) expect(simulate(lambda)).toBeCloseTo(offsetCorrection([], lambda).noiseSdFactor, 1);
	});
});
