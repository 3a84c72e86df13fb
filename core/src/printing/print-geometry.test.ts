import { describe, expect, test } from 'vitest';
import { hangingBelow, jobToleranceUm, printGeometry, settingOf, toleranceOf } from './index.ts';

const LAYOUT = {
	rows: 1,
	columns: 2,
	pitchXMm: 60,
	pitchYMm: 40,
	railMm: 5,
	fiducials: [
		{ x: 3, y: 3 },
		{ x: 117, y: 43 }
	]
};
const SIDE = { side: 'top' as const, widthMm: 50, heightMm: 40, panel: LAYOUT };
const part = (refDes: string, xMm: number, yMm: number, rotationDeg = 0, fitted = true) =>
	({ refDes, partNumber: '', value: '', packageName: 'P', xMm, yMm, rotationDeg, fitted, apertures: [] }) as never;
const body = (lengthMm: number | null, widthMm: number | null) => (() => ({ lengthMm, widthMm })) as never;

describe('the panel as it is printed', () => {
	test('the middle of its marks, and the farthest corner from there', () => {
		const { middle, rMaxMm, panel } = printGeometry(SIDE);
		expect(middle).toEqual({ x: 60, y: 23 });
		// Circuits from 5 to 55 and 65 to 115, 5 to 45: the farthest corner is 55 along and 22 up.
		expect(panel.origins.map((o) => o.x)).toEqual([5, 65]);
		expect(rMaxMm).toBeCloseTo(Math.hypot(55, 22), 9);
	});

	test('a tiny panel counts a turn at 20 mm; no marks leave the corner', () => {
		const tiny = printGeometry({ ...SIDE, widthMm: 6, heightMm: 6, panel: { ...LAYOUT, columns: 1, fiducials: [] } });
		expect(tiny.rMaxMm).toBe(20);
		expect(tiny.middle).toEqual({ x: 0, y: 0 });
	});

	test('only fine openings set the tolerance', () => {
		const fine = { padClass: 'fineLead', widthMm: 0.25 };
		expect(toleranceOf({ apertures: [fine, { padClass: 'chip', widthMm: 0.1 }] })).toBe(
			jobToleranceUm([{ padWidthMm: 0.25, pitchMm: null }])
		);
		expect(toleranceOf({ apertures: [{ padClass: 'fineBallGrid', widthMm: 0.2 }] })).toBe(
			jobToleranceUm([{ padWidthMm: 0.2, pitchMm: null }])
		);
	});
});

describe('what hangs below the side that is printed', () => {
	test('fitted parts, mirrored, once a circuit', () => {
		const below = hangingBelow(SIDE, [part('C1', 10, 8), part('C2', 20, 8, 0, false)], body(4, 2));
		expect(below.map((b) => b.name)).toEqual(['C1, circuit 1', 'C1, circuit 2']);
		// 10 from the left of the bottom is 40 from the left as it lies below the top.
		expect(below[0]!.box).toEqual({ minX: 43, maxX: 47, minY: 12, maxY: 14 });
		expect(below[1]!.box.minX).toBe(103);
	});

	test('turned with the part; a body that nobody knows is 2 mm', () => {
		const [turned] = hangingBelow(SIDE, [part('C1', 10, 8, 90)], body(4, 2));
		expect(turned!.box.maxX - turned!.box.minX).toBeCloseTo(2, 9);
		expect(turned!.box.maxY - turned!.box.minY).toBeCloseTo(4, 9);
		const [unknown] = hangingBelow(SIDE, [part('X1', 10, 8)], body(null, null));
		expect(unknown!.box.maxX - unknown!.box.minX).toBeCloseTo(2, 9);
	});

	test('nothing below the bottom: it is printed first', () => {
		expect(hangingBelow({ ...SIDE, side: 'bottom' }, [part('C1', 10, 8)], body(4, 2))).toEqual([]);
	});
});

describe('how a printer is set', () => {
	const recipe = { forceKgPerCm: 0.3, forceBasis: 'panel' as const, bladeMm: 300, speedMmPerS: 50, separationMmPerS: 3 };

	test('by the recipe, the force by length of the blade', () => {
		expect(settingOf(recipe, null, 150)).toEqual({ forceKgPerCm: 0.15, speedMmPerS: 50, separationMmPerS: 3 });
		expect(settingOf({ ...recipe, forceBasis: 'blade' }, null, 150)!.forceKgPerCm).toBe(0.3);
	});

	test('a trial that is going on comes first, in the recipe’s own terms', () => {
		expect(settingOf(recipe, { force: 0.2, speed: 30, separation: 1 }, 150)).toEqual({
			forceKgPerCm: expect.closeTo(0.1, 12),
			speedMmPerS: 30,
			separationMmPerS: 1
		});
		expect(settingOf(null, { force: 0.2, speed: 30, separation: 1 }, 150)!.forceKgPerCm).toBe(0.2);
		expect(settingOf(null, null, 150)).toBeNull();
	});
});
