import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { bakeHours, floorLife, MOISTURE_LEVELS, type MoistureStay } from './moisture.ts';

const air = (hours: number): MoistureStay => ({ where: 'air', hours });
const cabinet = (hours: number, rhPct: number): MoistureStay => ({ where: 'cabinet', hours, rhPct });
const bag = (hours: number, cardPct: number | null): MoistureStay => ({ where: 'bag', hours, cardPct });

describe('the clock of a moisture-sensitive part', () => {
	test.each([
		['3', [air(11), cabinet(55, 8), air(100)], 100, 68],
		['5', [air(9), cabinet(200, 3), air(30)], 39, 9],
		// At the edges of the reset: 12 h and five times that for level 3, 8 h and ten times that for level 5.
		['3', [air(12), cabinet(60, 10), air(1)], 1, 167],
		['3', [air(12), cabinet(59.9, 10), air(1)], 13, 155],
		['3', [air(12.1), cabinet(100, 10), air(1)], 13.1, 154.9],
		['5', [air(8), cabinet(80, 5), air(1)], 1, 47],
		['5', [air(8), cabinet(79, 5), air(1)], 9, 39],
		// A cabinet that is too wet is air.
		['3', [cabinet(10, 10.1)], 10, 158],
		['4', [cabinet(10, 5.1)], 10, 62],
		['4', [cabinet(10, 5)], 0, 72],
		// Dry time before and after air is not one stay.
		['3', [air(4), cabinet(15, 5), air(1), cabinet(24, 5)], 5, 163],
		['3', [air(4), cabinet(15, 5), cabinet(5, 5)], 0, 168],
		// A good bag stands the clock still; one whose card nobody read does not.
		['2a', [air(20), bag(500, 10)], 20, 652],
		['2a', [air(20), bag(500, 10.1)], 520, 152],
		['2a', [air(20), bag(500, null)], 520, 152]
	] as const)('level %s', (level, stays, usedH, leftH) => {
		const life = floorLife(level, stays);
		expect(life.usedH).toBeCloseTo(usedH, 9);
		expect(life.leftH).toBeCloseTo(leftH, 9);
		expect(life.expired).toBe(false);
	});

	test('used up means used up: dry air does not bring it back, a bake does', () => {
		expect(floorLife('5a', [air(24)])).toEqual({ usedH: 24, leftH: 0, expired: false });
		expect(floorLife('5a', [air(24.1)])).toMatchObject({ leftH: 0, expired: true });
		expect(floorLife('5a', [air(25), cabinet(1000, 1)]).expired).toBe(true);
		expect(floorLife('5a', [air(25), { where: 'bake', hours: 16 }, air(2)])).toEqual({ usedH: 2, leftH: 22, expired: false });
	});

	test('level 1 has no end, level 6 none before its bake', () => {
		expect(floorLife('1', [air(1e5)])).toEqual({ usedH: 0, leftH: null, expired: false });
		expect(floorLife('6', [], 6)).toMatchObject({ leftH: 0, expired: true });
		expect(floorLife('6', [{ where: 'bake', hours: 24 }, air(2)], 6)).toEqual({ usedH: 2, leftH: 4, expired: false });
		expect(() => floorLife('6', [])).toThrow(/labelH/);
	});

	test('what cannot be is refused by its place', () => {
		expect(() => floorLife('3', [air(1), air(-1)])).toThrow(/stays.1.hours/);
		expect(() => floorLife('3', [cabinet(1, 101)])).toThrow(/stays.0.rhPct/);
		expect(() => floorLife('3', [bag(1, -1)])).toThrow(/stays.0.cardPct/);
		expect(() => floorLife('3', [air(NaN)])).toThrow(/finite/);
	});

	test('more air never leaves more life', () => {
		const stay = fc.oneof(
			fc.record({ where: fc.constant('air' as const), hours: fc.double({ min: 0, max: 50, noNaN: true }) }),
			fc.record({
				where: fc.constant('cabinet' as const),
				hours: fc.double({ min: 0, max: 200, noNaN: true }),
				rhPct: fc.double({ min: 0, max: 20, noNaN: true })
			})
		);
		fc.assert(
			fc.property(fc.constantFrom(...MOISTURE_LEVELS.filter((l) => l !== '6')), fc.array(stay, { maxLength: 8 }), (level, stays) => {
				const before = floorLife(level, stays);
				const after = floorLife(level, [...stays, air(1)]);
				expect(after.leftH ?? Infinity).toBeLessThanOrEqual(before.leftH ?? Infinity);
				expect(after.usedH).toBeGreaterThanOrEqual(0);
			})
		);
	});
});

test.each([
	['3', 1.4, 73, 9],
	['3', 1.4, 72, 7],
	['3', 1.41, 72, 17],
	['2', 2, 73, 18],
	['5a', 2, 1, 40],
	['4', 2.01, 1, 48],
	['4', 4.5, 500, 48],
	['1', 1, 0, null],
	['6', 1, 0, null]
] as const)('level %s, %d mm thick, %d h over: %s h at 125 °C', (level, bodyMm, overH, hours) => {
	expect(bakeHours(level, bodyMm, overH)).toBe(hours);
});

test('a body that no table has is refused', () => {
	expect(() => bakeHours('3', 4.6, 1)).toThrow(/bodyMm/);
	expect(() => bakeHours('3', 1, -1)).toThrow(/overH/);
});
