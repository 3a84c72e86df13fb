import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { InputError } from '../judgement/index.ts';
import {
	airAt,
	airNodes,
	bareBoardHeat,
	boardSpots,
	checkRecipe,
	recipeAge,
	whyNotIn,
	firstCrossing,
	GENERIC_WINDOWS,
	groupBorders,
	heatedM,
	predictCurve,
	profileMetrics,
	startingRecipe,
	timeAbove,
	valuesOf,
	windowUse,
	type Oven,
	type OvenRecipe
} from './index.ts';

const OVEN: Oven = {
	zoneM: [0.3, 0.35, 0.4, 0.35, 0.3, 0.35],
	entryM: 0.3,
	entryShare: 0.15,
	cooling: [{ lengthM: 0.5, airC: 60 }],
	ambientC: 25,
	borderM: 0.12,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 80,
	beltMinCmPerMin: 20,
	beltMaxCmPerMin: 150
};
const RECIPE: OvenRecipe = { setC: [120, 150, 170, 190, 235, 255], beltCmPerMin: 60 };
const TAU = [{ untilM: Infinity, tauS: 30 }];

const oven = fc
	.record({
		zones: fc.array(fc.double({ min: 0.2, max: 0.6, noNaN: true }), { minLength: 4, maxLength: 14 }),
		border: fc.double({ min: 0.02, max: 0.18, noNaN: true })
	})
	.map(({ zones, border }): Oven => ({ ...OVEN, zoneM: zones, borderM: border }));

describe('air in the oven', () => {
	test('inside a zone the air is its set-point, between two it lies between them', () => {
		const nodes = airNodes(OVEN, RECIPE);
		expect(airAt(nodes, 0.15)).toBeCloseTo(120, 9);
		expect(airAt(nodes, 0.3)).toBeCloseTo(135, 9);
		expect(airAt(nodes, 1.95)).toBeCloseTo(255, 9);
	});

	test('far outside the air is that of the room', () => {
		const nodes = airNodes(OVEN, RECIPE);
		expect(airAt(nodes, -5)).toBe(25);
		expect(airAt(nodes, 50)).toBe(25);
	});

	test('the entry tunnel draws a share of the first zone', () => {
		expect(airAt(airNodes(OVEN, RECIPE), -0.15)).toBeCloseTo(25 + 0.15 * 95, 9);
	});

	test('nodes stand in order of place for any oven of 4 to 14 zones', () => {
		fc.assert(
			fc.property(oven, (o) => {
				const nodes = airNodes(o, { setC: o.zoneM.map((_, i) => 100 + 10 * i), beltCmPerMin: 60 });
				for (let i = 1; i < nodes.length; i++) expect(nodes[i]!.xM).toBeGreaterThan(nodes[i - 1]!.xM);
			})
		);
	});

	test('heated length and group borders', () => {
		expect(heatedM(OVEN)).toBeCloseTo(2.05, 9);
		const { preheatM, soakM, reflowM } = groupBorders(OVEN);
		expect(preheatM).toBeCloseTo(0.65, 9);
		expect(soakM).toBeCloseTo(1.4, 9);
		expect(reflowM).toBeCloseTo(2.05, 9);
	});
});

describe('recipes', () => {
	test('a recipe that fits passes', () => {
		expect(() => checkRecipe(OVEN, RECIPE)).not.toThrow();
		expect(whyNotIn(OVEN, RECIPE)).toBeNull();
	});

	test.each([
		{ what: 'a zone too many', recipe: { ...RECIPE, setC: [...RECIPE.setC, 250] }, path: 'recipe.setC' },
		{ what: 'a set-point above the machine', recipe: { ...RECIPE, setC: RECIPE.setC.with(5, 310) }, path: 'zone 6' },
		{ what: 'a set-point that is no number', recipe: { ...RECIPE, setC: RECIPE.setC.with(0, NaN) }, path: 'zone 1' },
		{ what: 'a step too large', recipe: { ...RECIPE, setC: RECIPE.setC.with(3, 60) }, path: 'step from zone 3 to 4' },
		{ what: 'a belt too fast', recipe: { ...RECIPE, beltCmPerMin: 151 }, path: 'belt' }
	])('$what is refused at $path', ({ recipe, path }) => {
		let caught: unknown;
		try {
			checkRecipe(OVEN, recipe);
		} catch (error) {
			caught = error;
		}
		expect(caught).toBeInstanceOf(InputError);
		expect((caught as InputError).path).toBe(path);
		expect(whyNotIn(OVEN, recipe)).toBeTruthy();
	});

	test('a recipe for another number of zones says both', () => {
		expect(whyNotIn(OVEN, { ...RECIPE, setC: RECIPE.setC.slice(1) })).toBe(
			`it is for an oven of ${RECIPE.setC.length - 1} zones, this one has ${OVEN.zoneM.length}`
		);
	});

	test('a recipe that the oven cannot run outranks one from before a correction', () => {
		const released = { revision: 2, recipe: RECIPE };
		expect(recipeAge(OVEN, released, false)).toBeNull();
		expect(recipeAge(OVEN, released, true)).toEqual({
			misfit: false,
			words: 'The oven’s data were corrected after recipe 2 was judged: it is judged here by them. Release it anew.'
		});
		const short = recipeAge(OVEN, { revision: 2, recipe: { ...RECIPE, setC: RECIPE.setC.slice(1) } }, true)!;
		expect(short.misfit).toBe(true);
		expect(short.words).toContain('it is for an oven of 5 zones, this one has 6. This is a start for it.');
	});

	test('a starting recipe fits every oven it is made for', () => {
		fc.assert(
			fc.property(oven, (o) => {
				for (const window of Object.values(GENERIC_WINDOWS)) {
					const recipe = startingRecipe({ ...o, stepMaxC: 120 }, window);
					expect(recipe.setC).toHaveLength(o.zoneM.length);
					expect(() => checkRecipe({ ...o, stepMaxC: 200 }, recipe)).not.toThrow();
				}
			})
		);
	});
});

describe('prediction', () => {
	/** The same equation stepped blindly in small steps: another way to the same curve. */
	function stepped(o: Oven, recipe: OvenRecipe, tauS: number, startM: number, dtS: number) {
		const nodes = airNodes(o, recipe);
		const speed = recipe.beltCmPerMin / 6000;
		let t = o.ambientC;
		let peak = t;
		let above = 0;
		for (let x = startM; x < nodes.at(-1)!.xM + 0.1; x += speed * dtS) {
			t += (dtS * (airAt(nodes, x) - t)) / tauS;
			peak = Math.max(peak, t);
			if (t > 217) above += dtS;
		}
		return { peak, above };
	}

	test('piecewise exact steps agree with a blind integration', () => {
		fc.assert(
			fc.property(oven, fc.double({ min: 12, max: 80, noNaN: true }), fc.integer({ min: 35, max: 120 }), (o, tauS, belt) => {
				const n = o.zoneM.length;
				const recipe = { setC: o.zoneM.map((_, i) => Math.round(100 + (170 * i) / (n - 1))), beltCmPerMin: belt };
				const curve = predictCurve(o, recipe, [{ untilM: Infinity, tauS }]);
				const other = stepped(o, recipe, tauS, curve.xM[0]!, 0.02);
				expect(Math.max(...curve.tempC)).toBeCloseTo(other.peak, 0);
				expect(Math.abs(timeAbove(curve.timeS, curve.tempC, 217) - other.above)).toBeLessThan(1);
			}),
			{ numRuns: 40 }
		);
	});

	test('times rise, places rise, and the curve stays between room and hottest air', () => {
		const curve = predictCurve(OVEN, RECIPE, TAU);
		for (let i = 1; i < curve.timeS.length; i++) {
			expect(curve.timeS[i]!).toBeGreaterThan(curve.timeS[i - 1]!);
			expect(curve.xM[i]!).toBeGreaterThan(curve.xM[i - 1]!);
		}
		expect(Math.max(...curve.tempC)).toBeLessThan(255);
		expect(Math.min(...curve.tempC)).toBeGreaterThanOrEqual(25 - 1e-9);
	});

	test('a heavier spot peaks lower and later', () => {
		const light = predictCurve(OVEN, RECIPE, [{ untilM: Infinity, tauS: 20 }]);
		const heavy = predictCurve(OVEN, RECIPE, [{ untilM: Infinity, tauS: 50 }]);
		const peakAt = (curve: typeof light) => curve.timeS[curve.tempC.indexOf(Math.max(...curve.tempC))]!;
		expect(Math.max(...heavy.tempC)).toBeLessThan(Math.max(...light.tempC));
		expect(peakAt(heavy)).toBeGreaterThan(peakAt(light));
	});

	test('a hotter zone never cools any spot', () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 1, max: 20 }), (zone, more) => {
				const base = predictCurve(OVEN, RECIPE, TAU);
				const hotter = predictCurve(OVEN, { ...RECIPE, setC: RECIPE.setC.with(zone, RECIPE.setC[zone]! + more) }, TAU);
				base.tempC.forEach((c, i) => expect(hotter.tempC[i]!).toBeGreaterThanOrEqual(c - 1e-9));
			})
		);
	});

	test('impossible time constants and belts are refused', () => {
		expect(() => predictCurve(OVEN, RECIPE, [])).toThrow('tau: expected at least one time constant');
		expect(() => predictCurve(OVEN, RECIPE, [{ untilM: Infinity, tauS: 0 }])).toThrow('tauS');
		expect(() => predictCurve(OVEN, { ...RECIPE, beltCmPerMin: 0 }, TAU)).toThrow('belt');
	});
});

describe('metrics', () => {
	const SETTINGS = { referenceC: 217, soakFromC: 150, soakToC: 200, windowS: 10 };

	test('a crossing is found where the line meets the level, and only upwards', () => {
		expect(firstCrossing([0, 10, 20], [100, 200, 100], 150)).toBe(5);
		expect(firstCrossing([0, 10], [200, 100], 150)).toBeNull();
		expect(firstCrossing([0, 10], [100, 120], 150)).toBeNull();
		expect(firstCrossing([0, 10], [100, 150], 150)).toBe(10);
	});

	test('time above a level: a triangle, a flat top, never', () => {
		expect(timeAbove([0, 10, 20], [200, 234, 200], 217)).toBeCloseTo(10, 9);
		expect(timeAbove([0, 10, 20, 30], [217, 240, 240, 217], 217)).toBeCloseTo(30, 9);
		expect(timeAbove([0, 10], [100, 217], 217)).toBe(0);
	});

	test('time above never grows with the level', () => {
		const curve = predictCurve(OVEN, RECIPE, TAU);
		let before = Infinity;
		for (let level = 100; level < 260; level += 5) {
			const now = timeAbove(curve.timeS, curve.tempC, level);
			expect(now).toBeLessThanOrEqual(before);
			before = now;
		}
	});

	test('a spot that never reaches the upper soak has no soak time, and zero above the reference is a real value', () => {
		const m = profileMetrics([0, 60, 120, 180], [25, 140, 180, 100], SETTINGS);
		expect(m.soakS).toBeNull();
		expect(m.aboveReferenceS).toBe(0);
		expect(m.peakC).toBe(180);
		expect(valuesOf(m)).toMatchObject({ soak: null, aboveReference: 0, peak: 180 });
	});

	test('the rise is that of the steepest chord before the peak, the fall of the steepest after it', () => {
		// 1 °C/s for 50 s, 3 °C/s for 50 s, flat for 50 s, then 2 °C/s down: a reading a second.
		const timeS = Array.from({ length: 201 }, (_, i) => i);
		const tempC = timeS.map((t) => (t <= 50 ? 25 + t : t <= 100 ? 75 + 3 * (t - 50) : t <= 150 ? 225 : 225 - 2 * (t - 150)));
		const m = profileMetrics(timeS, tempC, SETTINGS);
		expect(m.maxRiseCPerS).toBeCloseTo(3, 9);
		expect(m.maxFallCPerS).toBeCloseTo(2, 9);
		expect(m.toPeakS).toBeCloseTo(100, 6);
	});

	test('a wider chord never sees a steeper rise', () => {
		const curve = predictCurve(OVEN, RECIPE, TAU);
		const rise = (windowS: number) => profileMetrics(curve.timeS, curve.tempC, { ...SETTINGS, windowS }).maxRiseCPerS;
		expect(rise(20)).toBeLessThanOrEqual(rise(10) + 1e-9);
		expect(rise(10)).toBeLessThanOrEqual(rise(4) + 1e-9);
	});
});

describe('window use', () => {
	test('it is 0 in the middle, 100 on both limits, over 100 outside, and odd about the middle', () => {
		fc.assert(
			fc.property(fc.double({ min: 0, max: 300, noNaN: true }), fc.double({ min: 1, max: 80, noNaN: true }), (middle, half) => {
				const limit = { low: middle - half, high: middle + half };
				expect(windowUse(middle, limit)).toBeCloseTo(0, 6);
				expect(windowUse(middle + half, limit)).toBeCloseTo(100, 6);
				expect(windowUse(middle - half, limit)).toBeCloseTo(-100, 6);
				expect(Math.abs(windowUse(middle + 1.01 * half, limit))).toBeGreaterThan(100);
			})
		);
	});

	test('a one-sided limit asks nothing below its target', () => {
		expect(windowUse(0.4, { max: 3, target: 1.5 })).toBe(0);
		expect(windowUse(3, { max: 3, target: 1.5 })).toBe(100);
	});

	test('limits that cross are refused', () => {
		expect(() => windowUse(1, { low: 5, high: 5 })).toThrow('limit.high: expected above 5');
		expect(() => windowUse(1, { max: 1, target: 2 })).toThrow('limit.max');
	});

	test('generic windows are possible: every limit has room, the peak lies above the reference', () => {
		for (const window of Object.values(GENERIC_WINDOWS)) {
			for (const limit of Object.values(window.limits)) expect(() => windowUse(1, limit)).not.toThrow();
			const peak = window.limits.peak as { low: number; high: number };
			expect(peak.low).toBeGreaterThan(window.referenceC + 10);
			expect(window.soakToC).toBeGreaterThan(window.soakFromC);
			expect(window.source).toContain('the paste’s own sheet overrides it');
		}
	});
});

describe('heat of a board', () => {
	const BUILD = { thicknessMm: 1.6, copperLayers: 4, copperShare: 0.6 };

	test('thicker boards and more copper hold more heat', () => {
		expect(bareBoardHeat({ ...BUILD, thicknessMm: 2.4 })).toBeGreaterThan(bareBoardHeat(BUILD));
		expect(bareBoardHeat({ ...BUILD, copperLayers: 8 })).toBeGreaterThan(bareBoardHeat(BUILD));
	});

	test.each([
		{ field: 'board.thicknessMm', build: { ...BUILD, thicknessMm: 0 } },
		{ field: 'board.copperLayers', build: { ...BUILD, copperLayers: -1 } },
		{ field: 'board.copperShare', build: { ...BUILD, copperShare: 55 } }
	])('$field out of range is refused by name', ({ field, build }) => {
		expect(() => bareBoardHeat(build)).toThrow(field);
	});

	test('without parts there are still three spots', () => {
		const spots = boardSpots(BUILD, [], OVEN);
		expect(spots.map((spot) => [spot.name, spot.at])).toEqual([
			['light', 'bare edge'],
			['typical', 'middle'],
			['heavy', 'middle']
		]);
	});

	test('the heavy spot is at the heaviest part of its neighbourhood', () => {
		const part = (refDes: string, packageName: string, xMm: number, yMm: number, fitted = true) => ({
			refDes,
			packageName,
			xMm,
			yMm,
			fitted,
			partNumber: '',
			value: '',
			rotationDeg: 0,
			apertures: []
		});
		const parts = [
			part('R1', 'RESC1005X40N', 5, 5),
			part('R2', 'RESC1005X40N', 90, 5),
			part('L1', 'INDM100100X450', 60, 60),
			part('R3', 'RESC1005X40N', 66, 60),
			part('L9', 'INDM100100X450', 5, 60, false)
		];
		const spots = boardSpots(BUILD, parts, OVEN);
		expect(spots[2]!.at).toBe('L1');
		expect(spots[0]!.at).toMatch(/^R[12], leading edge$/);
		expect(spots[2]!.tauS).toBeGreaterThan(spots[0]!.tauS);
		// Preheat is gentler than reflow, so the same spot lags more there.
		expect(spots[1]!.tau[0]!.tauS).toBeGreaterThan(spots[1]!.tau[2]!.tauS);
	});
});
