import { describe, expect, test } from 'vitest';
import { alternatingHeadsS, holdLimitMmS2, turretS, type Turret } from './index.ts';

describe('two heads that take turns', () => {
	const cycles = (n: number, pickS: number, placeS: number) => Array.from({ length: n }, () => ({ pickS, placeS }));

	test.each([
		[4, 1.4, 1, 5.8],
		[5, 0.5, 1, 5.5],
		[1, 2, 1, 3],
		[0, 1, 1, 0]
	])('%d cycles of %d s picking and %d s placing: %d s', (n, pick, place, total) => {
		expect(alternatingHeadsS(cycles(n, pick, place))).toBeCloseTo(total, 9);
	});

	test('in the long run a cycle takes the placing, or half of both', () => {
		const a = (n: number, p: number, q: number) => alternatingHeadsS(cycles(n, p, q));
		expect(a(202, 0.5, 1) - a(200, 0.5, 1)).toBeCloseTo(2, 9);
		expect(a(202, 3, 1) - a(200, 3, 1)).toBeCloseTo(4, 9);
		expect(() => alternatingHeadsS([{ pickS: -1, placeS: 1 }])).toThrow(/cycles.0.pickS/);
	});
});

describe('a turret', () => {
	const turret: Turret = {
		table: { vMmS: 600, aMmS2: 9000 },
		carriage: { vMmS: 800, aMmS2: 12_000 },
		slotPitchMm: 16,
		indexS: 0.1,
		stations: 2
	};
	const part = (x: number, y: number, slot: number) => ({ at: { x, y }, slot });
	const parts = [part(0, 0, 3), part(10, 0, 3), part(20, 0, 4), part(20, 15, 9), part(25, 15, 9)];

	test('waits for the slowest of index, table and carriage', () => {
		expect(turretS(parts, turret)).toBeCloseTo(0.566667, 6);
		expect(turretS([], turret)).toBe(0);
		expect(turretS(parts.slice(0, 1), turret)).toBe(0.1);
	});

	test('a slow carriage decides only where there is a part to fetch', () => {
		const slow = { ...turret, carriage: { vMmS: 8, aMmS2: 12_000 } };
		expect(turretS(parts.slice(0, 2), slow)).toBeCloseTo(0.2, 9);
		expect(turretS(parts, slow)).toBeGreaterThan(10);
		expect(() => turretS(parts, { ...turret, stations: 0 })).toThrow(/stations/);
		expect(() => turretS(parts, { ...turret, indexS: 0 })).toThrow(/indexS/);
	});
});

test('a nozzle holds a part up to so many mm/s² sideways', () => {
	const of = { vacuumKPa: 60, boreMm: 5, massG: 8, friction: 0.3, safety: 2 };
	expect(holdLimitMmS2(of) / 1000).toBeCloseTo(22.089, 3);
	expect(holdLimitMmS2({ ...of, massG: 16 })).toBeCloseTo(holdLimitMmS2(of) / 2, 6);
	expect(holdLimitMmS2({ ...of, boreMm: 10 })).toBeCloseTo(holdLimitMmS2(of) * 4, 6);
	expect(() => holdLimitMmS2({ ...of, massG: 0 })).toThrow(/massG/);
	expect(() => holdLimitMmS2({ ...of, safety: 0.9 })).toThrow(/safety/);
});
