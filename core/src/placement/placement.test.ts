import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readPackage } from '../parts/index.ts';
import {
	axisTimeS,
	cannotPlace,
	fewestCycles,
	gantryCycle,
	judgePicks,
	moveTimeS,
	nozzleFor,
	pickStrokes,
	programMachine,
	type Placement,
	type PlacerSpec
} from './index.ts';

const MACHINE: PlacerSpec = {
	name: 'Place 1',
	slots: 30,
	slotPitchMm: 14,
	cameraSlot: 15,
	onTheFly: true,
	spindles: 6,
	headPitchMm: 14,
	x: { vMmS: 1500, aMmS2: 20000 },
	y: { vMmS: 1500, aMmS2: 18000 },
	pickS: 0.05,
	placeS: 0.06,
	cameraS: 0.2,
	transferS: 3,
	fiducialS: 0.4,
	accuracyUm: 50,
	accuracySigmas: 3,
	smallestMm: 0.25,
	largestMm: 10,
	tallestMm: 4,
	finestPitchMm: 0.5,
	trays: false
};
const distance = fc.double({ min: 0, max: 600, noNaN: true });

describe('moves', () => {
	test('longer moves take longer, and a detour is never faster', () => {
		fc.assert(
			fc.property(distance, distance, (a, b) => {
				expect(axisTimeS(a + b + 1, MACHINE.x)).toBeGreaterThan(axisTimeS(a, MACHINE.x));
				expect(axisTimeS(a + b, MACHINE.x)).toBeLessThanOrEqual(axisTimeS(a, MACHINE.x) + axisTimeS(b, MACHINE.x) + 1e-12);
			})
		);
	});

	test('the two parts of the profile meet where full speed is just reached', () => {
		const reach = 1500 ** 2 / 20000;
		expect(axisTimeS(reach - 1e-6, MACHINE.x)).toBeCloseTo(axisTimeS(reach + 1e-6, MACHINE.x), 6);
	});

	test('there and back take the same time, standing still takes none', () => {
		expect(axisTimeS(-80, MACHINE.x)).toBe(axisTimeS(80, MACHINE.x));
		expect(moveTimeS({ x: 3, y: 4 }, { x: 3, y: 4 }, MACHINE.x, MACHINE.y)).toBe(0);
	});

	test('no speed, no machine', () => {
		expect(() => axisTimeS(10, { vMmS: 0, aMmS2: 1 })).toThrow('axis: expected speed and acceleration above 0');
		expect(() => axisTimeS(10, { vMmS: 1, aMmS2: -1 })).toThrow('axis');
	});
});

describe('cycles and strokes', () => {
	test('the fewest cycles are enough, and one fewer is not', () => {
		fc.assert(
			fc.property(
				fc.array(fc.integer({ min: 1, max: 200 }), { minLength: 1, maxLength: 4 }),
				fc.integer({ min: 4, max: 16 }),
				(counts, spindles) => {
					const cycles = fewestCycles(counts, spindles);
					const needed = (c: number) => counts.reduce((sum, n) => sum + Math.ceil(n / c), 0);
					expect(needed(cycles)).toBeLessThanOrEqual(spindles);
					if (cycles > 1) expect(needed(cycles - 1)).toBeGreaterThan(spindles);
				}
			)
		);
	});

	test('more nozzle types than spindles is said', () => {
		expect(() => fewestCycles([1, 1, 1], 2)).toThrow('spindles: expected at least 3, one for each nozzle');
		expect(fewestCycles([0, 0], 4)).toBe(0);
	});

	test('every spindle is lifted once, whatever the slots', () => {
		fc.assert(
			fc.property(
				fc.array(fc.option(fc.integer({ min: 1, max: 30 }), { nil: null }), { minLength: 1, maxLength: 12 }),
				fc.constantFrom(1, 2, 1.5),
				(slots, ratio) => {
					const lifted = pickStrokes(slots, ratio).flatMap((stroke) => stroke.spindles);
					expect(lifted.sort((a, b) => a - b)).toEqual(slots.flatMap((slot, i) => (slot === null ? [] : [i])));
				}
			)
		);
	});

	test('without a whole ratio of pitches there are no gang picks', () => {
		expect(pickStrokes([1, 2, 3], 1)).toHaveLength(1);
		expect(pickStrokes([1, 2, 3], 1.5)).toHaveLength(3);
	});

	test('a cycle’s time is the sum of what it says', () => {
		const cycle = {
			strokes: [{ spindle: 0, at: { x: 10, y: 0 } }],
			camera: { x: 50, y: 40 },
			places: [{ spindle: 0, at: { x: 90, y: 130 } }]
		};
		const time = gantryCycle({ ...MACHINE, onTheFly: false }, { x: 0, y: 100 }, cycle);
		expect(time.totalS).toBeCloseTo(time.pickS + time.travelS + time.cameraS + time.placeS, 12);
		expect(time).toMatchObject({ pickS: 0.05, cameraS: 0.2, placeS: 0.06, end: { x: 90, y: 130 } });
	});
});

describe('what a machine can place', () => {
	test.each([
		{ name: 'RESC1005X40N', why: [] },
		{ name: 'CONN_24X8X9', why: ['body 24 mm, at most 10 mm', 'height 9 mm, at most 4 mm'] },
		{ name: 'BGA81C40P9X9_400X400X80', why: ['pitch 0.4 mm, at least 0.5 mm'] },
		{ name: 'RESC0201X20N', why: ['body 0.125 mm, at least 0.25 mm'] },
		{ name: 'WEIRD', why: ['body size unknown: left to a machine for large parts'] }
	])('$name', ({ name, why }) => {
		expect(cannotPlace(MACHINE, readPackage(name), false)).toEqual(why);
	});

	test('a tray needs a machine with trays', () => {
		expect(cannotPlace(MACHINE, readPackage('RESC1005X40N'), true)).toEqual(['comes in a tray, no tray here']);
		expect(cannotPlace({ ...MACHINE, trays: true }, readPackage('RESC1005X40N'), true)).toEqual([]);
	});

	test.each([
		['RESC0603X26N', 'small'],
		['RESC1005X40N', 'small'],
		['RESC1608X50N', 'medium'],
		['SOIC127P600X175-8', 'large'],
		['SOT95P237X112-3', 'medium'],
		['QFN50P700X700X90-49', 'large'],
		['WEIRD', 'medium']
	] as const)('%s takes a %s nozzle', (name, nozzle) => {
		expect(nozzleFor(readPackage(name))).toBe(nozzle);
	});
});

describe('programs', () => {
	const placements = Array.from({ length: 47 }, (_, i): Placement => ({
		refDes: `R${i}`,
		circuit: 0,
		feeder: `F${i % 5}`,
		at: { x: (i * 13) % 100, y: (i * 29) % 80 },
		rotationDeg: 0,
		nozzle: i % 5 === 4 ? 'large' : 'small',
		heightMm: i % 5 === 4 ? 3.5 : 0.5
	}));
	const slots = { F0: 14, F1: 15, F2: 16, F3: 17, F4: 18.5 };
	const program = programMachine(MACHINE, placements, slots, { widthMm: 120, fiducials: 3 });

	test('every placement is done once, no cycle holds more than the head', () => {
		const done = program.cycles.flat().map((p) => p.refDes);
		expect(done.sort()).toEqual(placements.map((p) => p.refDes).sort());
		for (const cycle of program.cycles) expect(cycle.length).toBeLessThanOrEqual(MACHINE.spindles);
	});

	test('fiducials and transfer are paid once a panel', () => {
		expect(program.split).toMatchObject({ fiducialS: 3 * 0.4, transferS: 3 });
		expect(program.totalS).toBeCloseTo(
			Object.values(program.split).reduce((a, b) => a + b, 0),
			9
		);
	});

	test('the same input gives the same program', () => {
		expect(programMachine(MACHINE, placements, slots, { widthMm: 120, fiducials: 3 })).toEqual(program);
	});

	test('feeders far from the camera cost time', () => {
		const far = programMachine(MACHINE, placements, { F0: 1, F1: 30, F2: 2, F3: 29, F4: 3 }, { widthMm: 120, fiducials: 3 });
		expect(far.totalS).toBeGreaterThan(program.totalS);
		expect(far.split.placeS).toBeCloseTo(program.split.placeS, 9);
	});

	test('nothing to place is only transfer and fiducials', () => {
		expect(programMachine(MACHINE, [], {}, { widthMm: 120, fiducials: 2 }).totalS).toBeCloseTo(3 + 0.8, 9);
	});
});

describe('picks of a placer', () => {
	test.each([
		{ seen: { panels: 20, lost: 5 }, level: 'good', word: '0.08 % of the picks lost' },
		{ seen: { panels: 20, lost: 60 }, level: 'watch', word: '1.00 % of the picks are lost' },
		{ seen: { panels: 0, lost: 0 }, level: 'noData', word: 'Nothing placed' }
	])('$word', ({ seen, level, word }) => {
		const verdict = judgePicks(seen, 300);
		expect(verdict.level).toBe(level);
		expect(verdict.statement).toContain(word);
	});

	test('exactly half a percent lost is still good, one pick more is not', () => {
		expect(judgePicks({ panels: 10, lost: 15 }, 300).level).toBe('good');
		expect(judgePicks({ panels: 10, lost: 16 }, 300)).toMatchObject({ level: 'watch', because: [{ formula: '16 lost of 3000 picks' }] });
		expect(judgePicks({ panels: 10, lost: 16 }, 0).level).toBe('noData');
	});
});
