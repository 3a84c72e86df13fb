import { describe, expect, test } from 'vitest';
import { plotGerber, readPasteLayer } from '@keen-relay/core/artwork';
import { seededRandom } from '@keen-relay/core/numerics';

/** Areas by a second way: random points counted by ray casting, which knows nothing of shoelaces, formulas or the polygon library. */
function inside(ring: readonly { x: number; y: number }[], x: number, y: number): boolean {
	let within = false;
	for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
		const [a, b] = [ring[i]!, ring[j]!];
		if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) within = !within;
	}
	return within;
}

function paintedArea(text: string, box: { x: number; y: number; size: number }, points = 60_000): number {
	const { shapes } = plotGerber(text);
	const random = seededRandom(17);
	let hits = 0;
	for (let n = 0; n < points; n++) {
		const x = box.x + box.size * random.uniform();
		const y = box.y + box.size * random.uniform();
		// The painter's rule of the format: later objects cover earlier ones.
		let dark = false;
		for (const shape of shapes)
			if (inside(shape.outline, x, y) && !shape.holes.some((hole) => inside(hole, x, y))) dark = shape.polarity === 'dark';
		if (dark) hits++;
	}
	return (hits / points) * box.size * box.size;
}

const MM = '%FSLAX34Y34*%\n%MOMM*%\n';
const CASES = [
	{ name: 'two overlapping circles', body: '%ADD10C,2*%\nD10*\nX0Y0D03*\nX12000Y0D03*' },
	{
		name: 'a pad with a cleared cross',
		body: '%ADD10R,4X4*%\n%ADD11R,4.2X0.5*%\n%ADD12R,0.5X4.2*%\nD10*\nX0Y0D03*\n%LPC*%\nD11*\nX0Y0D03*\nD12*\nX0Y0D03*'
	},
	{
		name: 'dark over clear over dark',
		body: '%ADD10C,4*%\n%ADD11C,2*%\n%ADD12C,1*%\nD10*\nX0Y0D03*\n%LPC*%\nD11*\nX0Y0D03*\n%LPD*%\nD12*\nX0Y0D03*'
	},
	{ name: 'a stroke around a corner', body: '%ADD10C,0.8*%\nD10*\nX-15000Y-15000D02*\nX15000Y-15000D01*\nX15000Y15000D01*' },
	{ name: 'an arc stroke', body: 'G75*\n%ADD10C,0.6*%\nD10*\nX-15000Y0D02*\nG02*\nX15000Y0I15000J0D01*' },
	{ name: 'a rectangle drawn along a slope', body: '%ADD10R,0.6X1.2*%\nD10*\nX-12000Y-8000D02*\nX12000Y9000D01*' },
	{
		name: 'a turned and mirrored macro',
		body: '%AMBAR*21,1,2,0.8,0.4,0.2,20*1,1,0.9,-1,0.3,0*%\n%ADD10BAR*%\nD10*\n%LR35.0*%\n%LMX*%\nX2000Y-1000D03*'
	},
	{
		name: 'a region with an arc',
		body: 'G75*\nG36*\nX-15000Y-10000D02*\nG01*\nX10000Y-10000D01*\nG03*\nX10000Y10000I0J10000D01*\nG01*\nX-15000Y10000D01*\nX-15000Y-10000D01*\nG37*'
	},
	{
		name: 'a block flashed twice, once turned',
		body: '%ADD10R,1.2X0.4*%\n%ABD20*%\nD10*\nX5000Y0D03*\nX5000Y6000D03*\n%AB*%\nD20*\nX-10000Y0D03*\n%LR90.0*%\nX5000Y5000D03*'
	}
];

describe('area against random points, 1.5 % of the box', () => {
	test.each(CASES)('$name', ({ body }) => {
		const text = `${MM}${body}\nM02*\n`;
		const read = readPasteLayer(text);
		expect(read.issues.filter((issue) => issue.severity === 'error')).toEqual([]);
		const counted = paintedArea(text, { x: -3, y: -3, size: 6 });
		const measured = read.apertures.reduce((sum, a) => sum + a.areaMm2, 0);
		// 60 000 points in 36 mm²: one standard deviation is at most 0.074 mm².
		expect(Math.abs(measured - counted)).toBeLessThan(0.3);
	});
});

/** Perimeter by a second way: the length of wall that a fine raster crosses (Cauchy–Crofton), 2 % for convex openings. */
describe('perimeter against crossings', () => {
	test.each([
		{ name: 'circle', body: '%ADD10C,2*%\nD10*\nX0Y0D03*' },
		{ name: 'rectangle', body: '%ADD10R,2.4X1*%\nD10*\nX0Y0D03*' },
		{ name: 'oblong', body: '%ADD10O,2.4X1*%\nD10*\nX0Y0D03*' },
		{ name: 'hexagon', body: '%ADD10P,2X6X15*%\nD10*\nX0Y0D03*' }
	])('$name', ({ body }) => {
		const aperture = readPasteLayer(`${MM}${body}\nM02*\n`).apertures[0]!;
		// A convex curve is crossed twice by every line that meets it: mean width over all directions is perimeter / π.
		let widths = 0;
		const directions = 720;
		for (let k = 0; k < directions; k++) {
			const [c, s] = [Math.cos((k * Math.PI) / directions), Math.sin((k * Math.PI) / directions)];
			const along = aperture.outline.map((p) => p.x * c + p.y * s);
			widths += Math.max(...along) - Math.min(...along);
		}
		expect(Math.abs((Math.PI * widths) / directions / aperture.perimeterMm - 1)).toBeLessThan(0.004);
	});
});
