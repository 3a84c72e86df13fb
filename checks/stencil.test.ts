import { describe, expect, test } from 'vitest';
import { governingWidth } from '@keen-relay/core/geometry';
import { measure, measureRing } from '@keen-relay/core/artwork';
import { forecastOpening, transfer } from '@keen-relay/core/stencil';

const MIL = 0.0254;

/** IPC-7525, table of example openings in mil (from memory; both ratios recomputed). */
const IPC_7525_EXAMPLES = [
	{ name: 'slot 10 x 50', xMil: 10, yMil: 50, foilMil: 5, aspect: 2.0, area: 0.83 },
	{ name: 'slot 7 x 50', xMil: 7, yMil: 50, foilMil: 5, aspect: 1.4, area: 0.61 },
	{ name: 'square 11', xMil: 11, yMil: 11, foilMil: 5, aspect: 2.2, area: 0.55 },
	{ name: 'square 13', xMil: 13, yMil: 13, foilMil: 5, aspect: 2.6, area: 0.65 }
];

describe('IPC-7525 example openings', () => {
	test.each(IPC_7525_EXAMPLES)('$name mil in a $foilMil mil foil', ({ xMil, yMil, foilMil, aspect, area }) => {
		const m = measure({ shape: 'rectangle', xSizeMm: xMil * MIL, ySizeMm: yMil * MIL });
		const f = forecastOpening({ ...m, widthMm: m.widthMm! }, foilMil * MIL);
		expect(f.aspectRatio).toBeCloseTo(aspect, 1);
		expect(f.areaRatio).toBeCloseTo(area, 2);
	});

	test.each([
		{ dMil: 25, foilMil: 6, aspect: 4.2, area: 1.04 },
		{ dMil: 15, foilMil: 5, aspect: 3.0, area: 0.75 }
	])('round $dMil mil in a $foilMil mil foil', ({ dMil, foilMil, aspect, area }) => {
		const m = measure({ shape: 'circle', diameterMm: dMil * MIL });
		const f = forecastOpening({ ...m, widthMm: m.widthMm! }, foilMil * MIL);
		expect(f.aspectRatio).toBeCloseTo(aspect, 1);
		expect(f.areaRatio).toBeCloseTo(area, 2);
	});
});

// Values below were computed apart from this code (tolerance 0.1 %).
test('a rectangle, a circle and an oblong give area, ratios, volume and transfer', () => {
	const rect = measure({ shape: 'rectangle', xSizeMm: 1.5, ySizeMm: 0.25 });
	const f = forecastOpening({ ...rect, widthMm: rect.widthMm! }, 0.127);
	expect(rect.areaMm2).toBeCloseTo(0.375, 6);
	expect(f.areaRatio).toBeCloseTo(0.8436, 4);
	expect(f.aspectRatio).toBeCloseTo(1.969, 3);
	expect(f.volumeNl).toBeCloseTo(47.625, 3);
	expect(f.efficiency).toBeCloseTo(0.9395, 4);
	expect(f.ruledBy).toBe('aspect');
	const circle = measure({ shape: 'circle', diameterMm: 0.28 });
	const g = forecastOpening({ ...circle, widthMm: circle.widthMm! }, 0.1);
	expect(g.areaRatio).toBeCloseTo(0.7, 6);
	expect(g.volumeNl).toBeCloseTo(6.158, 3);
	expect(g.efficiency).toBeCloseTo(0.8429, 4);
	const oblong = measure({ shape: 'obround', xSizeMm: 2, ySizeMm: 0.3 });
	expect(oblong.areaMm2).toBeCloseTo(0.58069, 5);
	expect(oblong.perimeterMm).toBeCloseTo(4.34248, 5);
});

test('polygons: home plate, L and dumbbell give area, perimeter and governing width', () => {
	const ring = (...xy: number[]) => Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }));
	const homePlate = ring(0, 0, 0.45, 0, 0.7, 0.3, 0.45, 0.6, 0, 0.6);
	const l = ring(0, 0, 1.2, 0, 1.2, 0.3, 0.4, 0.3, 0.4, 0.9, 0, 0.9);
	const dumbbell = ring(0, 0, 0.4, 0, 0.4, 0.13, 0.8, 0.13, 0.8, 0, 1.2, 0, 1.2, 0.4, 0.8, 0.4, 0.8, 0.27, 0.4, 0.27, 0.4, 0.4, 0, 0.4);
	for (const [outline, area, perimeterMm, width] of [
		[homePlate, 0.345, 2.28102, 0.6],
		[l, 0.6, 4.2, 0.4],
		[dumbbell, 0.376, 3.72, 0.14]
	] as const) {
		const m = measureRing(outline);
		expect(m.areaMm2).toBeCloseTo(area, 6);
		expect(m.perimeterMm).toBeCloseTo(perimeterMm, 4);
		expect(governingWidth({ outline, holes: [] })).toBeCloseTo(width, 3);
	}
});

test('the transfer model at three area ratios', () => {
	expect([0.5, 0.66, 0.8].map((ar) => Number((transfer(ar).efficiency * 100).toFixed(2)))).toEqual([54.98, 79.96, 91.83]);
	expect(transfer(0.66).cvPct).toBeCloseTo(9.51, 2);
});

test('a thicker foil can deliver less: a 0.25 mm circle peaks between 0.08 and 0.12 mm', () => {
	const m = measure({ shape: 'circle', diameterMm: 0.25 });
	const delivered = [0.08, 0.1, 0.12, 0.15].map((foil) => forecastOpening({ ...m, widthMm: 0.25 }, foil).deliveredNl);
	[3.563, 3.706, 3.461, 2.925].forEach((nl, i) => expect(Math.abs(delivered[i]! / nl - 1)).toBeLessThan(0.001));
});
