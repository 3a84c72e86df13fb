import { describe, expect, test } from 'vitest';
import { medianRanks, offsetTrim, placementsToSee } from './trims.ts';

/** Twenty-four placements about 40 µm off, and one part that fell over. */
const RESIDUALS = [31, 44, 38, 52, 29, 47, 41, 36, 33, 55, 40, 39, -260, 43, 35, 48, 37, 42, 30, 46, 45, 34, 50, 28, 41];

test.each([
	[10, 2, 9],
	[15, 4, 12],
	[25, 8, 18],
	[50, 18, 33]
])('of %d values the median lies between rank %d and %d', (n, low, high) => {
	expect(medianRanks(n)).toEqual({ low, high });
});

test('fewer than six values have no interval that sure; many have a narrow one', () => {
	expect(medianRanks(5)).toBeNull();
	expect(medianRanks(6)).toEqual({ low: 1, high: 6 });
	const many = medianRanks(100_000)!;
	expect(many.low).toBeCloseTo(50_000 - 1.96 * 0.5 * Math.sqrt(100_000), -1.5);
	expect(many.low + many.high).toBe(100_001);
	expect(() => medianRanks(0)).toThrow(/n/);
});

test('how many placements show an offset', () => {
	expect(placementsToSee(20, 15)).toBe(26);
	expect(placementsToSee(0, 15)).toBe(1);
	expect(placementsToSee(15 / (1.2533 * 3), 15)).toBe(1);
	expect(() => placementsToSee(20, 0)).toThrow(/offsetUm/);
});

describe('a trim', () => {
	test('goes by the median: one part that fell over moves the mean only', () => {
		const trim = offsetTrim(RESIDUALS, 5);
		expect(trim.medianUm).toBe(40);
		expect(trim.meanUm).toBeCloseTo(28.16, 2);
		expect(trim.sigmaUm).toBeCloseTo(8.9, 2);
		expect(trim.standardErrorUm).toBeCloseTo(2.23, 2);
		expect(trim.interval).toEqual({ lowUm: 35, highUm: 44 });
		expect(trim.correctionUm).toBe(-40);
	});

	test('from fewer than 25 placements it is taken in part', () => {
		const trim = offsetTrim(RESIDUALS.slice(0, 24), 5);
		expect(trim.correctionUm).toBeCloseTo(-0.7 * trim.medianUm, 9);
		expect(trim.why).toContain('in part');
	});

	test('never from two panels, nor for what is not worth it, nor for what chance does', () => {
		expect(offsetTrim(RESIDUALS, 2)).toMatchObject({ correctionUm: 0, why: expect.stringContaining('Too few panels') });
		expect(offsetTrim(RESIDUALS, 3).correctionUm).toBe(-40);
		const shifted = (by: number) =>
			offsetTrim(
				RESIDUALS.map((v) => v - 40 + by),
				5
			);
		expect(shifted(15)).toMatchObject({ correctionUm: 0, why: expect.stringContaining('not worth') });
		expect(shifted(15.1).correctionUm).toBeCloseTo(-15.1, 9);
		expect(shifted(-15.1).correctionUm).toBeCloseTo(15.1, 9);
		const wide = Array.from({ length: 40 }, (_, i) => 16 + (i % 2 ? 25 : -25));
		expect(offsetTrim(wide, 5)).toMatchObject({ correctionUm: 0, why: expect.stringContaining('needed') });
	});

	test('what is no number is refused by its place', () => {
		expect(() => offsetTrim([], 3)).toThrow(/offsetsUm/);
		expect(() => offsetTrim([1, NaN], 3)).toThrow(/offsetsUm.1/);
		expect(() => offsetTrim([1], 0)).toThrow(/panels/);
	});
});
