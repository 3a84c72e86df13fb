import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readValue, sameValue, type ValueKind } from './values.ts';

describe('values of parts', () => {
	test.each([
		['R', '6k8', 6800],
		['R', 'R22', 0.22],
		['R', '2M2', 2.2e6],
		['R', '4R7', 4.7],
		['R', '0R', 0],
		['R', '1M', 1e6],
		['R', '1m', 1e-3],
		['R', '2,2k', 2200],
		['R', '100 Ω', 100],
		['R', '100 \u2126', 100],
		['R', '10K', 10_000],
		['R', '47', 47],
		['R', '4.7 kOhm', 4700],
		['R', '10k 1%', 10_000],
		['R', '0,125', 0.125],
		['C', '473', 47e-9],
		['C', '104', 100e-9],
		['C', '6,8uF', 6.8e-6],
		['C', '3n3/100V', 3.3e-9],
		['C', '100n', 100e-9],
		['C', '2,2µF', 2.2e-6],
		['C', '2,2\u03bcF', 2.2e-6],
		['C', '22PF', 22e-12],
		['C', '10U', 10e-6],
		['C', '100n, X7R', 100e-9],
		['L', '4u7', 4.7e-6],
		['L', '10 uH', 10e-6],
		['L', '1m', 1e-3]
	] as const)('%s %s', (kind, text, value) => {
		const read = readValue(text, kind);
		expect(read).toHaveProperty('value');
		expect(Math.abs((read as { value: number }).value - value)).toBeLessThanOrEqual(1e-9 * value);
		expect((read as { unit: string }).unit).toBe({ R: 'Ω', C: 'F', L: 'H' }[kind]);
	});

	test.each([
		['C', '47'],
		['L', '10'],
		['C', '0.1'],
		['R', 'DNP'],
		['R', ''],
		['R', '1,000'],
		['R', 'k'],
		['C', '1M'],
		['C', '100k'],
		['R', '4k7x'],
		['R', '22PF']
	] as const)('%s “%s” is compared as text, with the reason', (kind, text) => {
		expect(readValue(text, kind)).toEqual({ why: expect.stringMatching(/\.$|\?$/) });
	});

	test('the same value in two ways of writing is the same', () => {
		expect(sameValue('4k7', '4700', 'R')).toBe(true);
		expect(sameValue('0.1uF', '100n', 'C')).toBe(true);
		expect(sameValue('104', '100nF', 'C')).toBe(true);
		expect(sameValue('1M', '1m', 'R')).toBe(false);
		expect(sameValue('DNP', 'DNP ', 'R')).toBe(true);
		expect(sameValue('47', '47', 'C')).toBe(true);
		expect(sameValue('47', '47p', 'C')).toBe(false);
	});

	test('three figures and a letter come back as they were written', () => {
		const letters: Record<ValueKind, [string, number][]> = {
			R: [
				['R', 0],
				['k', 3],
				['M', 6]
			],
			C: [
				['p', -12],
				['n', -9],
				['u', -6]
			],
			L: [
				['n', -9],
				['u', -6],
				['m', -3]
			]
		};
		fc.assert(
			fc.property(
				fc.constantFrom('R', 'C', 'L' as const),
				fc.nat(2),
				fc.integer({ min: 1, max: 99 }),
				fc.integer({ min: 0, max: 9 }),
				(kind, i, whole, decimal) => {
					const [letter, power] = letters[kind as ValueKind][i]!;
					const value = Number(`${whole}.${decimal}e${power}`);
					for (const text of [`${whole}${letter}${decimal}`, `${whole}.${decimal}${letter}`, `${whole},${decimal} ${letter}`])
						expect(readValue(text, kind as ValueKind), text).toMatchObject({ value: expect.closeTo(value, 15) });
				}
			)
		);
	});
});
