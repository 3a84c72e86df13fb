import { describe, expect, test } from 'vitest';
import { bareBoardHeat, predictCurve, profileMetrics, windowUse, type Oven } from '@keen-relay/core/reflow';
import { ovenHeadwayS } from '@keen-relay/core/balance';

const SETTINGS = { referenceC: 217, soakFromC: 150, soakToC: 200, windowS: 10 };

/** Seven zones of 0.35 m, one cooling zone: computed apart from this code with linear interpolation. */
const M1: Oven = {
	zoneM: Array(7).fill(0.35),
	entryM: 0.3,
	entryShare: 0.1,
	cooling: [{ lengthM: 0.5, airC: 60 }],
	ambientC: 25,
	borderM: 0.1,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 60,
	beltMinCmPerMin: 40,
	beltMaxCmPerMin: 110
};
const RECIPE = { setC: [120, 145, 165, 180, 195, 240, 258], beltCmPerMin: 70 };
const FAST = [
	{ untilM: 1.75, tauS: 28 },
	{ untilM: 2.45, tauS: 20 },
	{ untilM: Infinity, tauS: 25 }
];
const SLOW = [
	{ untilM: 1.75, tauS: 45 },
	{ untilM: 2.45, tauS: 32 },
	{ untilM: Infinity, tauS: 40 }
];
const measured = (recipe = RECIPE, tau = SLOW) => {
	const curve = predictCurve(M1, recipe, tau, -0.6);
	return profileMetrics(curve.timeS, curve.tempC, SETTINGS);
};

/** One long zone behind a hard edge: a first-order response to a step, whose closed form is in every control textbook. */
describe('closed-form first-order response', () => {
	const box: Oven = { ...M1, zoneM: [10], entryM: 0, entryShare: 0, cooling: [], borderM: 1e-6 };
	const at = (curve: ReturnType<typeof predictCurve>, t: number) => {
		const i = curve.timeS.findIndex((s) => s >= t - 1e-9);
		const share = (t - curve.timeS[i - 1]!) / (curve.timeS[i]! - curve.timeS[i - 1]!);
		return curve.tempC[i - 1]! + share * (curve.tempC[i]! - curve.tempC[i - 1]!);
	};

	test('step from 25 to 150 °C with τ 40 s: 150 − 125·e^(−60/40) after 60 s', () => {
		const curve = predictCurve(box, { setC: [150], beltCmPerMin: 60 }, [{ untilM: Infinity, tauS: 40 }], -1e-5);
		expect(at(curve, 60)).toBeCloseTo(150 - 125 * Math.exp(-60 / 40), 2);
		expect(at(curve, 60)).toBeCloseTo(122.109, 2);
	});

	test('ramp of air from 25 to 150 °C in 50 s with τ 30 s: 89.166 °C at its end', () => {
		// A border of 0.5 m at 1 cm/s is a ramp of 50 s.
		const ramp: Oven = { ...box, borderM: 0.5 };
		const curve = predictCurve(ramp, { setC: [150], beltCmPerMin: 60 }, [{ untilM: Infinity, tauS: 30 }], -0.25);
		expect(at(curve, 50)).toBeCloseTo(89.166, 2);
	});
});

test('seven-zone oven, fast and slow spot: peak, time above 217, soak and rise', () => {
	const fast = measured(RECIPE, FAST);
	expect(fast.peakC).toBeCloseTo(249.7, 1);
	expect(fast.aboveReferenceS).toBeCloseTo(47.58, 1);
	expect(fast.soakS).toBeCloseTo(69.35, 1);
	expect(Math.abs(fast.maxRiseCPerS - 2.411)).toBeLessThan(0.01);
	const slow = measured();
	expect(slow.peakC).toBeCloseTo(238.79, 1);
	expect(slow.aboveReferenceS).toBeCloseTo(33.8, 1);
	expect(slow.soakS).toBeCloseTo(58.03, 1);
	expect(Math.abs(slow.maxRiseCPerS - 1.68)).toBeLessThan(0.01);
});

test('the last zone moves the peak, the sixth the time above 217, the belt both', () => {
	const last = measured({ ...RECIPE, setC: RECIPE.setC.with(6, 263) });
	expect(last.peakC).toBeCloseTo(241.6, 1);
	expect(last.aboveReferenceS).toBeCloseTo(34.72, 1);
	const sixth = measured({ ...RECIPE, setC: RECIPE.setC.with(5, 245) });
	expect(sixth.aboveReferenceS).toBeCloseTo(36.74, 1);
	const belt = measured({ ...RECIPE, beltCmPerMin: 74 });
	expect(belt.peakC).toBeCloseTo(237, 1);
	expect(belt.soakS).toBeCloseTo(53.37, 1);
});

test('twice the belt with half the time constants gives the same peak in half the time', () => {
	const halved = measured(
		{ ...RECIPE, beltCmPerMin: 140 },
		SLOW.map((t) => ({ ...t, tauS: t.tauS / 2 }))
	);
	expect(halved.peakC).toBeCloseTo(238.79, 1);
	expect(halved.aboveReferenceS).toBeCloseTo(16.9, 1);
});

test('metrics of a log with straight pieces', () => {
	const m = profileMetrics([0, 90, 180, 210, 220, 250], [25, 150, 200, 240, 240, 180], SETTINGS);
	expect(m.aboveReferenceS).toBeCloseTo(38.75, 6);
	expect(m.soakS).toBeCloseTo(90, 6);
	const broken = profileMetrics([0, 100, 140, 155, 165, 190, 205, 230], [25, 190, 221, 213, 219, 238, 221, 190], SETTINGS);
	expect(broken.aboveReferenceS).toBeCloseTo(59.22, 2);
});

test('window use is 0 in the middle and 100 on a limit', () => {
	expect(windowUse(240, { low: 235, high: 250 })).toBeCloseTo(-33.33, 2);
	expect(windowUse(52, { low: 45, high: 90 })).toBeCloseTo(-68.89, 2);
	expect(windowUse(118, { low: 60, high: 120 })).toBeCloseTo(93.33, 2);
	expect(windowUse(2.1, { low: 1, high: 3 })).toBeCloseTo(10, 2);
	expect(windowUse(2.1, { max: 3, target: 1 })).toBeCloseTo(55, 2);
});

test('bare FR-4 with 110 W/m²K: 19.9, 31.8 and 47.7 s at 1.0, 1.6 and 2.4 mm', () => {
	for (const [thicknessMm, tauS] of [
		[1.0, 19.9],
		[1.6, 31.8],
		[2.4, 47.7]
	] as const)
		expect(bareBoardHeat({ thicknessMm, copperLayers: 0, copperShare: 0 }) / 110).toBeCloseTo(tauS, 1);
	// A full 35 µm plane adds 121 J/m²K.
	const plane =
		bareBoardHeat({ thicknessMm: 1.6, copperLayers: 1, copperShare: 1 }) -
		bareBoardHeat({ thicknessMm: 1.6, copperLayers: 0, copperShare: 0 });
	expect(plane).toBeCloseTo(121, 0);
});

test('oven headway: panel 300 mm, gap 60 mm, 750 mm/min is 28.8 s', () => {
	expect(ovenHeadwayS(300, 60, 75)).toBeCloseTo(28.8, 9);
	expect(ovenHeadwayS(250, 50, 75)).toBeCloseTo(24, 9);
});
