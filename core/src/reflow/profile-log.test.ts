import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { alignLog, GENERIC_WINDOWS, measureLog, predictCurve, readProfileLog, startingRecipe, type Oven } from './index.ts';

const rows = (n: number, line: (i: number) => string) => Array.from({ length: n }, (_, i) => line(i)).join('\n');
const WINDOW = Object.values(GENERIC_WINDOWS)[0]!;

const oven = (zoneM: number[]): Oven => ({
	zoneM,
	entryM: 0.3,
	entryShare: 0.1,
	cooling: [{ lengthM: 0.4, airC: 60 }],
	ambientC: 25,
	borderM: 0.1,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 55,
	beltMinCmPerMin: 20,
	beltMaxCmPerMin: 140
});

describe('a thermocouple log', () => {
	test('is read with points or commas, seconds or a clock, Celsius or Fahrenheit', () => {
		const plain = readProfileLog(`Logger 7\nTime (s),TC1 edge,TC2 body\n${rows(20, (i) => `${i * 0.5},${25 + i},${24 + i}`)}`);
		expect(plain.issues).toEqual([]);
		expect(plain.log!.channels.map((c) => c.name)).toEqual(['TC1 edge', 'TC2 body']);
		expect(plain.log!.timeS[19]).toBe(9.5);
		const comma = readProfileLog(`Zeit;TC1 (°C)\n${rows(20, (i) => `${String(i / 2).replace('.', ',')};${25 + i},5`)}`);
		expect(comma.log!.timeS[19]).toBe(9.5);
		expect(comma.log!.channels[0]!.tempC[3]).toBe(28.5);
		const clock = readProfileLog(`Time\tTC1 (°F)\n${rows(12, (i) => `13:04:${String(i * 5).padStart(2, '0')}\t${32 + 18 * i}`)}`);
		expect(clock.log!.timeS.slice(0, 3)).toEqual([0, 5, 10]);
		expect(clock.log!.channels[0]!.tempC[2]).toBeCloseTo(20, 9);
	});

	test('a bad cell leaves out its row and names line, field and value; the others are read', () => {
		const { log, issues } = readProfileLog(`Time,TC1\n${rows(15, (i) => (i === 4 ? '4,OPEN' : i === 9 ? '3,40' : `${i},${30 + i}`))}`);
		expect(log!.timeS).toHaveLength(13);
		expect(issues).toMatchObject([
			{ severity: 'warning', line: 6, field: 'TC1', value: 'OPEN' },
			{ severity: 'warning', line: 11, field: 'Time', value: '3' }
		]);
	});

	test('an open thermocouple is left out; a log without any, or without a header, is refused', () => {
		const open = readProfileLog(`Time,TC1,TC2\n${rows(15, (i) => `${i},${30 + i},1372`)}`);
		expect(open.log!.channels.map((c) => c.name)).toEqual(['TC1']);
		expect(open.issues[0]!.message).toContain('open or reversed thermocouple');
		expect(readProfileLog('hello\n1,2').issues[0]!.message).toContain('No header line');
		expect(readProfileLog('Time,TC1\n1,2\n2,3').log).toBeNull();
	});

	test('its metrics are those of the same curve predicted, and it is laid back over that curve (property)', () => {
		const ten = oven([0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35]);
		const recipe = startingRecipe(ten, WINDOW);
		const curve = predictCurve(ten, recipe, [{ untilM: 99, tauS: 30 }]);
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 60 }), (beforeS) => {
				const timeS = [...Array.from({ length: beforeS }, (_, i) => i), ...curve.timeS.map((t) => t + beforeS)];
				const tempC = [...Array.from({ length: beforeS }, () => 25), ...curve.tempC];
				const log = { timeS, channels: [{ name: 'TC1', tempC }] };
				const { shiftS, rmsC } = alignLog(log, curve);
				expect(shiftS).toBeCloseTo(-beforeS, 0);
				expect(rmsC).toBeLessThan(0.3);
				expect(measureLog(log, WINDOW)[0]!.metrics.peakC).toBeCloseTo(Math.max(...curve.tempC), 9);
			}),
			{ numRuns: 15 }
		);
	});
});

test.each([4, 5, 7, 10, 14])('an oven of %i zones of unequal lengths gets a start that it can run', (zones) => {
	const uneven = oven(Array.from({ length: zones }, (_, i) => 0.25 + 0.05 * (i % 4)));
	const recipe = startingRecipe(uneven, WINDOW);
	expect(recipe.setC).toHaveLength(zones);
	for (let i = 1; i < zones; i++) expect(Math.abs(recipe.setC[i]! - recipe.setC[i - 1]!)).toBeLessThanOrEqual(55);
	const curve = predictCurve(uneven, recipe, [{ untilM: 99, tauS: 25 }]);
	expect(Math.max(...curve.tempC)).toBeGreaterThan(WINDOW.referenceC);
});
