import { describe, expect, test } from 'vitest';
import { alignLog, GENERIC_WINDOWS, measureLog, predictCurve, readProfileLog, startingRecipe, type Oven } from '@keen-relay/core/reflow';
import { profilerLog } from './profiler.ts';

const OVEN: Oven = {
	zoneM: [0.42, 0.42, 0.36, 0.36, 0.36, 0.28, 0.28],
	entryM: 0.3,
	entryShare: 0.1,
	cooling: [{ lengthM: 0.4, airC: 80 }],
	ambientC: 25,
	borderM: 0.1,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 55,
	beltMinCmPerMin: 20,
	beltMaxCmPerMin: 140
};
const WINDOW = GENERIC_WINDOWS.leadFree;
const RECIPE = startingRecipe(OVEN, WINDOW);
const COUPLES = [
	{ name: 'TC1 light C68, leading edge', tauS: 20 },
	{ name: 'TC2 heavy J1', tauS: 40 }
];

describe('the simulated profiler', () => {
	const csv = profilerLog(OVEN, RECIPE, COUPLES, 7);
	const { log, issues } = readProfileLog(csv);

	test('writes a log that reads without an issue, names with commas too', () => {
		expect(issues).toEqual([]);
		expect(log!.channels.map((channel) => channel.name)).toEqual(COUPLES.map((couple) => couple.name));
		expect(profilerLog(OVEN, RECIPE, COUPLES, 7)).toBe(csv);
		expect(profilerLog(OVEN, RECIPE, COUPLES, 8)).not.toBe(csv);
	});

	test('starts at room temperature before the oven, and a light spot gets hotter than a heavy one', () => {
		for (const channel of log!.channels) expect(channel.tempC[0]).toBeLessThan(27);
		const [light, heavy] = measureLog(log!, WINDOW);
		expect(light!.metrics.peakC).toBeGreaterThan(heavy!.metrics.peakC);
		expect(Math.max(...log!.channels[0]!.tempC)).toBeLessThan(Math.max(...RECIPE.setC));
	});

	test('agrees with the prediction within what the page says of it, yet is not the same curve', () => {
		const alone = { ...log!, channels: [log!.channels[0]!] };
		const curve = predictCurve(OVEN, RECIPE, [{ untilM: 99, tauS: 20 }]);
		const { rmsC } = alignLog(alone, curve);
		expect(rmsC).toBeLessThan(8);
		expect(rmsC).toBeGreaterThan(0.2);
		const peak = measureLog(alone, WINDOW)[0]!.metrics.peakC;
		expect(Math.abs(peak - Math.max(...curve.tempC))).toBeLessThan(8);
	});
});
