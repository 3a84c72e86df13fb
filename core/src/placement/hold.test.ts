import { describe, expect, test } from 'vitest';
import { readPackage } from '../parts/index.ts';
import {
	carrying,
	holdLimitMmS2,
	holdOf,
	optimise,
	timeProgram,
	type Bench,
	type HeadProgram,
	type Placement,
	type PlacerSpec
} from './index.ts';

const machine: PlacerSpec = {
	name: 'Place 1',
	slots: 40,
	slotPitchMm: 12,
	cameraSlot: 20,
	onTheFly: true,
	spindles: 2,
	headPitchMm: 12,
	x: { vMmS: 2000, aMmS2: 20_000 },
	y: { vMmS: 2000, aMmS2: 25_000 },
	pickS: 0.1,
	placeS: 0.1,
	cameraS: 0.1,
	transferS: 3,
	fiducialS: 0.3,
	accuracyUm: 40,
	accuracySigmas: 3,
	smallestMm: 0.3,
	largestMm: 45,
	tallestMm: 20,
	finestPitchMm: 0.3,
	trays: true
};
const bench: Bench = { pickSlot: { light: 18, heavy: 24 }, panel: { widthMm: 200, fiducials: 0 } };
const part = (refDes: string, x: number, feeder: 'light' | 'heavy', holdMmS2: number | null = null): Placement => ({
	refDes,
	circuit: 0,
	feeder,
	at: { x, y: 50 },
	rotationDeg: 0,
	nozzle: 'large',
	heightMm: 2,
	holdMmS2
});

describe('a part that slips easily', () => {
	test('half the mass holds twice as fast; a bore twice as wide four times', () => {
		const of = (massG: number, boreMm: number) => holdLimitMmS2({ vacuumKPa: 60, boreMm, massG, friction: 0.3, safety: 2 });
		expect(of(4, 5)).toBeCloseTo(2 * of(8, 5), 6);
		expect(of(8, 10)).toBeCloseTo(4 * of(8, 5), 6);
	});

	test('chips limit no machine; a body without a mass has no limit that is known', () => {
		expect(holdOf(readPackage('RESC1005X40N'))!).toBeGreaterThan(100_000);
		expect(holdOf(readPackage('nobody knows it'))).toBeNull();
		const body = { ...readPackage('SOIC127P600X175-8'), lengthMm: 20, widthMm: 20, massG: 12 };
		// Half of the shorter side, 8 mm at the most: π·8²/4 mm² · 55 kPa · 0.25 / (12 g · 2.5).
		expect(holdOf(body, 'large')).toBeCloseTo(23_038.3, 0);
		expect(holdOf({ ...body, lengthMm: 2, widthMm: 2 }, 'large')).toBeCloseTo((23_038.35 * 1.5 ** 2) / 64, 0);
	});

	test('slows both axes of its cycle to what it bears, and no axis that is slower already', () => {
		const slowed = carrying(machine, [null, part('L1', 0, 'heavy', 22_000), part('R1', 0, 'light')]);
		expect([slowed.x.aMmS2, slowed.y.aMmS2, slowed.x.vMmS]).toEqual([20_000, 22_000, 2000]);
		expect(carrying(machine, [part('L1', 0, 'heavy', 25_000)])).toBe(machine);
		expect(carrying(machine, [part('R1', 0, 'light'), null])).toBe(machine);
	});

	test('takes its cycle longer, and that cycle alone', () => {
		const program = (hold: number | null): HeadProgram => ({
			nozzles: ['large', 'large'],
			cycles: [
				{ held: [part('R1', 20, 'light'), part('R2', 60, 'light')], order: [0, 1] },
				{ held: [part('L1', 100, 'heavy', hold), part('R3', 140, 'light')], order: [0, 1] }
			]
		});
		const [fast, slow] = [timeProgram(machine, program(null), bench), timeProgram(machine, program(2000), bench)];
		expect(slow.cycleS[0]).toBeCloseTo(fast.cycleS[0]!, 12);
		// All of that cycle's moves are short of full speed: √10 times as long in x.
		expect(slow.cycleS[1]!).toBeGreaterThan(fast.cycleS[1]! * 1.5);
		expect(timeProgram(machine, program(25_000), bench)).toEqual(fast);
	});

	test('heavy parts go together where that is faster', () => {
		const placements = [part('L1', 20, 'heavy', 1500), part('R1', 60, 'light'), part('L2', 100, 'heavy', 1500), part('R2', 140, 'light')];
		const start: HeadProgram = {
			nozzles: ['large', 'large'],
			cycles: [
				{ held: [placements[0]!, placements[1]!], order: [0, 1] },
				{ held: [placements[2]!, placements[3]!], order: [0, 1] }
			]
		};
		const { program, pickSlot } = optimise(machine, placements, bench, { tries: 3000, start });
		const found = timeProgram(machine, program, { ...bench, pickSlot });
		expect(found.totalS).toBeLessThan(timeProgram(machine, start, bench).totalS);
		const heavy = program.cycles.map(({ held }) => held.filter((p) => p?.feeder === 'heavy').length).sort((a, b) => a - b);
		expect(heavy).toEqual([0, 2]);
	});
});
