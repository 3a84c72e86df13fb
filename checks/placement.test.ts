import { expect, test } from 'vitest';
import { expandDesignators } from '@keen-relay/core/artwork';
import { dealParts } from '@keen-relay/core/balance';
import { layoutBank, panelsLeft } from '@keen-relay/core/feeders';
import { readPackage, slotsForTape } from '@keen-relay/core/parts';
import { axisTimeS, fewestCycles, gantryCycle, moveTimeS, pickStrokes } from '@keen-relay/core/placement';

// Values computed apart from this code unless a source is named.
const X = { vMmS: 1000, aMmS2: 10000 };
const Y = { vMmS: 800, aMmS2: 8000 };

test('trapezoidal moves, the slower axis decides', () => {
	expect(axisTimeS(50, X)).toBeCloseTo(0.141421, 6);
	expect(axisTimeS(100, X)).toBeCloseTo(0.2, 6);
	expect(axisTimeS(300, X)).toBeCloseTo(0.4, 6);
	expect(moveTimeS({ x: 0, y: 0 }, { x: 20, y: 200 }, X, Y)).toBeCloseTo(0.35, 6);
});

test('fewest cycles with a fixed mix of nozzles', () => {
	expect(fewestCycles([90, 20, 6], 8)).toBe(18);
	expect(fewestCycles([10, 1], 4)).toBe(4);
});

test('gang picks: spindles on one key share a stroke', () => {
	expect(pickStrokes([4, 6, 8, 11], 2)).toHaveLength(2);
	expect(pickStrokes([4, 6, 8, 11], 1)).toHaveLength(4);
});

test('one gantry cycle, camera fixed and on the fly', () => {
	const machine = { headPitchMm: 16, x: X, y: Y, pickS: 0.1, placeS: 0.09, cameraS: 0.2, onTheFly: false };
	const cycle = {
		strokes: [
			{ spindle: 0, at: { x: 80, y: -30 } },
			{ spindle: 2, at: { x: 150, y: -30 } }
		],
		camera: { x: 200, y: 0 },
		places: [
			{ spindle: 0, at: { x: 40, y: 60 } },
			{ spindle: 1, at: { x: 70, y: 60 } },
			{ spindle: 2, at: { x: 90, y: 20 } }
		]
	};
	const fixed = gantryCycle(machine, { x: 0, y: 0 }, cycle);
	expect(fixed.totalS).toBeCloseTo(1.629536, 6);
	expect(fixed.end).toEqual({ x: 58, y: 20 });
	expect(gantryCycle({ ...machine, onTheFly: true }, { x: 0, y: 0 }, cycle).totalS).toBeCloseTo(1.200928, 6);
});

test('feeder layout: Smith’s order on one side, the optimum on two', () => {
	const needs = [
		{ id: 'A', picks: 30, slots: 1 },
		{ id: 'B', picks: 80, slots: 2 },
		{ id: 'C', picks: 50, slots: 1 },
		{ id: 'D', picks: 60, slots: 3 }
	];
	const oneSided = layoutBank(needs, { slots: 7, pitchMm: 14, cameraSlot: 1 });
	expect(oneSided.costPickMm).toBeCloseTo(7140, 6);
	expect(
		Object.entries(oneSided.firstSlot)
			.sort((a, b) => a[1] - b[1])
			.map(([id]) => id)
	).toEqual(['C', 'B', 'A', 'D']);
	expect(layoutBank(needs, { slots: 9, pitchMm: 14, cameraSlot: 5 }).costPickMm).toBeCloseTo(4620, 6);
});

/** Graham 1969 (from memory): longest-first gives 11 here, the optimum is 9; the descent must find it. */
test('deal: the classic worst case of longest-first is solved', () => {
	const parts = [5, 5, 4, 4, 3, 3, 3].map((seconds, i) => ({
		id: `P${i}`,
		count: 1,
		slots: [1, 1, 1],
		secondsEach: [seconds, seconds, seconds]
	}));
	const deal = dealParts(parts, Array(3).fill({ slots: 10, fixedS: 0 }));
	expect(deal.worstS).toBeCloseTo(9, 9);
	expect(deal.boundS).toBeCloseTo(9, 9);
});

test('deal with slots and a part that only one machine can place', () => {
	const parts = [
		{ id: 'A', count: 100, slots: [1, 1], secondsEach: [0.1, 0.1] },
		{ id: 'B', count: 80, slots: [1, 1], secondsEach: [0.1, 0.1] },
		{ id: 'C', count: 60, slots: [1, 1], secondsEach: [0.1, 0.1] },
		{ id: 'D', count: 40, slots: [2, 2], secondsEach: [0.1, 0.12] },
		{ id: 'E', count: 10, slots: [3, 3], secondsEach: [null, 0.6] }
	];
	const machines = [
		{ slots: 4, fixedS: 6 },
		{ slots: 6, fixedS: 6 }
	];
	expect(dealParts(parts, machines).worstS).toBeCloseTo(24, 6);
	const short = dealParts(parts, [machines[0]!, { slots: 2, fixedS: 6 }]);
	expect(short.left.map((l) => l.id)).toContain('E');
});

/** EIA-481 tape widths (from memory); feeder body 4 mm wider than the tape (common practice). */
test('slots of tapes at 14 and 12 mm pitch', () => {
	expect([8, 12, 16, 24, 32, 44, 56].map((w) => slotsForTape(w, 14))).toEqual([1, 2, 2, 2, 3, 4, 5]);
	expect(slotsForTape(24, 12)).toBe(3);
});

test('run-out: 1500 pieces at 16 a panel and 2 % loss feed 91 panels', () => {
	expect(panelsLeft(1500, 16, 0.02)).toBe(91);
});

/** IPC-7351 names are metric (from memory); bare codes are EIA sizes (common practice). */
test('package names', () => {
	expect(readPackage('RESC1005X40N').chip).toBe('0402');
	expect(readPackage('CAPC0402X22N').chip).toBe('01005');
	expect(readPackage('C1608').chip).toBe('0603');
	expect(readPackage('R0805').chip).toBe('0805');
	expect(readPackage('QFN50P400X400X80-25').pitchMm).toBe(0.5);
	expect(readPackage('SOIC127P600X175-8')).toMatchObject({ widthMm: 6, heightMm: 1.75, pitchMm: 1.27 });
	expect(readPackage('BGA81C40P9X9_400X400X80')).toMatchObject({ pitchMm: 0.4, lengthMm: 4, heightMm: 0.8 });
});

test('designator lists and ranges', () => {
	expect(expandDesignators('R1-R3, R7; R10..12 C5').designators).toEqual(['R1', 'R2', 'R3', 'R7', 'R10', 'R11', 'R12', 'C5']);
	expect(expandDesignators('Q4-Q2').bad).toEqual(['Q4-Q2']);
	expect(expandDesignators('J1-2', new Set(['J1-2'])).designators).toEqual(['J1-2']);
});
