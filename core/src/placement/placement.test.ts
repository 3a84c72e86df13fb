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
	optimise,
	outOfOrder,
	programBoundS,
	serpentine,
	timeProgram,
	tipsFor,
	heldKarp,
	precedence,
	type Bench,
	type HeadProgram,
	type Nozzle,
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
	const pickSlot = { F0: 14, F1: 15, F2: 16, F3: 17, F4: 18.5 };
	const bench: Bench = { pickSlot, panel: { widthMm: 120, fiducials: 3 } };
	const program = serpentine(MACHINE, placements, bench);
	const time = timeProgram(MACHINE, program, bench);

	const placedOnce = ({ cycles, nozzles }: HeadProgram) => {
		const done = cycles.flatMap(({ held, order }) => order.map((spindle) => held[spindle]!.refDes));
		expect(done.sort()).toEqual(placements.map((p) => p.refDes).sort());
		for (const { held, order } of cycles) {
			expect(held).toHaveLength(MACHINE.spindles);
			expect([...order].sort((a, b) => a - b)).toEqual(held.flatMap((p, spindle) => (p ? [spindle] : [])));
			held.forEach((p, spindle) => p && expect(nozzles[spindle]).toBe(p.nozzle));
		}
	};

	test('every placement is done once, from a spindle that carries its tip the whole panel long', () => {
		placedOnce(program);
		// 37 small and 10 large on 6 spindles: 5 + 1 tips need 10 cycles, 4 + 2 also 10; 8 would want 5 + 2.
		expect(program.cycles).toHaveLength(fewestCycles([38, 9], 6));
	});

	test('fiducials and transfer are paid once a panel', () => {
		expect(time.split).toMatchObject({ fiducialS: 3 * 0.4, transferS: 3 });
		expect(time.totalS).toBeCloseTo(
			Object.values(time.split).reduce((a, b) => a + b, 0),
			9
		);
		expect(time.cycleS.reduce((a, b) => a + b, 0)).toBeCloseTo(time.totalS - 4.2, 9);
	});

	test('feeders far from the camera cost time', () => {
		const far = { ...bench, pickSlot: { F0: 1, F1: 30, F2: 2, F3: 29, F4: 3 } };
		const away = timeProgram(MACHINE, serpentine(MACHINE, placements, far), far);
		expect(away.totalS).toBeGreaterThan(time.totalS);
		expect(away.split.placeS).toBeCloseTo(time.split.placeS, 9);
	});

	test('nothing to place is only transfer and fiducials', () => {
		const nothing: Bench = { pickSlot: {}, panel: { widthMm: 120, fiducials: 2 } };
		const empty = optimise(MACHINE, [], nothing, { tries: 100 });
		expect(timeProgram(MACHINE, empty.program, nothing).totalS).toBeCloseTo(3 + 0.8, 9);
		expect(programBoundS(MACHINE, [], nothing)).toBeCloseTo(3.8, 9);
	});

	test('one part is picked, looked at and placed: the time by hand, and nothing less is possible', () => {
		const machine = { ...MACHINE, onTheFly: false };
		const one: Placement = { ...placements[0]!, at: { x: 60, y: 10 }, feeder: 'F1' };
		const alone: Bench = { pickSlot: { F1: 15 }, panel: { widthMm: 120, fiducials: 0 } };
		// Rest, camera, slot and place stand on one line: 120 back, 40 to the camera, 90 to the place.
		const axis = (d: number) => axisTimeS(d, machine.y);
		const byHand = axis(120) + 0.05 + axis(40) + 0.2 + axis(90) + 0.06 + 3;
		expect(timeProgram(machine, serpentine(machine, [one], alone), alone).totalS).toBeCloseTo(byHand, 9);
		expect(programBoundS(machine, [one], alone)).toBeCloseTo(byHand, 9);
	});

	test.each([
		{ counts: [90, 20, 6], spindles: 8, tips: [5, 2, 1] },
		{ counts: [10, 0, 1], spindles: 4, tips: [3, 0, 1] },
		{ counts: [0, 7, 0], spindles: 6, tips: [0, 6, 0] }
	])('tips for $counts on $spindles spindles', ({ counts, spindles, tips }) => expect(tipsFor(counts, spindles)).toEqual(tips));

	test('more kinds of tip than spindles is said', () => {
		expect(() => tipsFor([1, 1, 1], 2)).toThrow('spindles: expected at least 3');
	});

	test('the order inside a cycle is the best of all orders', () => {
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 0, max: 150 })), { minLength: 1, maxLength: 6 }),
				(points) => {
					const far = ([ax, ay]: readonly number[], [bx, by]: readonly number[]) =>
						moveTimeS({ x: ax!, y: ay! }, { x: bx!, y: by! }, MACHINE.x, MACHINE.y);
					const first = (i: number) => far([100, -40], points[i]!);
					const last = (i: number) => far(points[i]!, [0, -120]);
					const between = points.map((a) => points.map((b) => far(a, b)));
					const cost = (order: readonly number[]) =>
						first(order[0]!) + order.slice(1).reduce((sum, k, i) => sum + between[order[i]!]![k]!, 0) + last(order.at(-1)!);
					const all = (left: number[], done: number[]): number =>
						left.length
							? Math.min(
									...left.map((i) =>
										all(
											left.filter((k) => k !== i),
											[...done, i]
										)
									)
								)
							: cost(done);
					const order = heldKarp(points.length, first, between, last);
					expect([...order].sort((a, b) => a - b)).toEqual([...points.keys()]);
					expect(cost(order)).toBeCloseTo(all([...points.keys()], []), 9);
				}
			),
			{ numRuns: 60 }
		);
	});

	describe('searched', () => {
		const found = optimise(MACHINE, placements, bench, { tries: 20_000 });
		const inPlace = { ...bench, pickSlot: found.pickSlot };

		test('is whole, faster than the serpentine by a twentieth, and not faster than the bound', () => {
			placedOnce(found.program);
			expect(found.pickSlot).toEqual(pickSlot);
			const totalS = timeProgram(MACHINE, found.program, inPlace).totalS;
			expect(totalS).toBeLessThan(0.95 * time.totalS);
			expect(totalS).toBeGreaterThanOrEqual(programBoundS(MACHINE, placements, bench));
		});

		test('the same tries and seed give the same program; another search goes on from it and never loses', () => {
			expect(optimise(MACHINE, placements, bench, { tries: 20_000 })).toEqual(found);
			const on = optimise(MACHINE, placements, bench, { tries: 3000, seed: 5, start: found.program, warmS: 0.01 });
			expect(timeProgram(MACHINE, on.program, bench).totalS).toBeLessThanOrEqual(timeProgram(MACHINE, found.program, bench).totalS);
		});

		test('a part is placed before a taller one within 10 mm, at 10 mm and not beyond', () => {
			const pair = (apart: number) => [
				{ ...placements[0]!, at: { x: 0, y: 0 } },
				{ ...placements[4]!, at: { x: apart, y: 0 } }
			];
			expect(precedence(pair(10))).toEqual([[0, 1]]);
			expect(precedence(pair(10.01))).toEqual([]);
			expect(precedence([{ ...placements[0]!, fine: true }, placements[0]!])).toEqual([[1, 0]]);
			expect(precedence(placements).length).toBeGreaterThan(5);
			expect(outOfOrder(found.program)).toEqual([]);
			const backwards: HeadProgram = { ...program, cycles: [...program.cycles].reverse() };
			expect(outOfOrder(backwards).length).toBeGreaterThan(0);
			for (const [low, high] of outOfOrder(backwards)) expect(low.heightMm).toBeLessThan(high.heightMm);
		});

		test('feeders that may move exchange places and free slots, wide ones only with wide ones; pinned ones stay', () => {
			const bank = {
				slots: { F0: 1, F1: 1, F2: 1, F3: 1, F4: 2 },
				free: Array.from({ length: 30 }, (_, i) => i + 1).filter((slot) => slot < 14 || slot > 19),
				pinned: new Set(['F1'])
			};
			const far = { ...bench, pickSlot: { F0: 1, F1: 15, F2: 29, F3: 30, F4: 18.5 } };
			const moved = optimise(MACHINE, placements, far, { tries: 20_000, bank });
			expect(moved.pickSlot).toMatchObject({ F1: 15, F4: 18.5 });
			const own = ['F0', 'F2', 'F3'].map((f) => moved.pickSlot[f]!);
			expect(new Set(own).size).toBe(3);
			for (const slot of own) expect([...bank.free, 1, 29, 30]).toContain(slot);
			const fixed = optimise(MACHINE, placements, far, { tries: 20_000 });
			expect(timeProgram(MACHINE, moved.program, { ...far, pickSlot: moved.pickSlot }).totalS).toBeLessThan(
				timeProgram(MACHINE, fixed.program, far).totalS
			);
		});
	});

	test('whatever is to be placed, a search keeps it whole, in its tips, and above the bound', () => {
		const placement = fc.record({
			at: fc.record({ x: fc.integer({ min: 0, max: 120 }), y: fc.integer({ min: 0, max: 90 }) }),
			feeder: fc.constantFrom('F0', 'F1', 'F2', 'F3', 'F4'),
			nozzle: fc.constantFrom('small', 'medium', 'large'),
			heightMm: fc.constantFrom(0.5, 2, 5)
		});
		fc.assert(
			fc.property(fc.array(placement, { minLength: 1, maxLength: 40 }), fc.boolean(), (list, onTheFly) => {
				const machine = { ...MACHINE, onTheFly };
				const own = list.map((p, i): Placement => ({ ...p, nozzle: p.nozzle as Nozzle, refDes: `X${i}`, circuit: 0, rotationDeg: 0 }));
				const { program: searched } = optimise(machine, own, bench, { tries: 300 });
				const done = searched.cycles.flatMap(({ held, order }) => order.map((spindle) => held[spindle]!.refDes));
				expect(done.sort()).toEqual(own.map((p) => p.refDes).sort());
				for (const { held } of searched.cycles) held.forEach((p, s) => p && expect(searched.nozzles[s]).toBe(p.nozzle));
				expect(timeProgram(machine, searched, bench).totalS).toBeGreaterThanOrEqual(programBoundS(machine, own, bench) - 1e-9);
				expect(outOfOrder(searched).length).toBeLessThanOrEqual(outOfOrder(serpentine(machine, own, bench)).length);
			}),
			{ numRuns: 60 }
		);
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
