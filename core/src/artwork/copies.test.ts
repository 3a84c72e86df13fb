import { describe, expect, test } from 'vitest';
import { readPasteLayer } from './index.ts';

/** Two squares of 0.5 mm that overlap, the second one so far right of the first, with a hole of 0.1 mm cut into the first. */
const group = (xUm: number, yUm: number, apartUm: number) =>
	['%LPD*%', 'D10*', `X${xUm}Y${yUm}D03*`, `X${xUm + apartUm}Y${yUm}D03*`, '%LPC*%', 'D11*', `X${xUm - 200}Y${yUm}D03*`].join('\n');
const layer = (...groups: string[]) =>
	readPasteLayer(['%FSLAX33Y33*%', '%MOMM*%', '%ADD10R,0.5X0.5*%', '%ADD11R,0.2X0.1*%', ...groups, 'M02*', ''].join('\n')).apertures;
const areaOf = (apartUm: number) => 0.25 + 0.5 * (apartUm / 1000) - 0.015;

describe('groups that a layer repeats', () => {
	test('each copy is where it was drawn, with the area that it has alone', () => {
		const places = [0, 7, 19, 40, 41].map((i) => ({ x: i * 3000, y: (i % 3) * 2000 }));
		const all = layer(...places.map(({ x, y }) => group(x, y, 300)));
		expect(all).toHaveLength(places.length);
		all.forEach((opening, i) => {
			const { x, y } = places[i]!;
			const [alone] = layer(group(x, y, 300));
			expect(opening.areaMm2).toBeCloseTo(alone!.areaMm2, 6);
			expect(opening.areaMm2).toBeCloseTo(areaOf(300), 4);
			expect(opening.centre.x).toBeCloseTo(alone!.centre.x, 6);
			expect(opening.centre.y).toBeCloseTo(alone!.centre.y, 6);
			expect(opening.outline).toHaveLength(alone!.outline.length);
		});
	});
	test('one that differs by a micrometre is no copy', () => {
		const areas = layer(group(0, 0, 300), group(3000, 0, 301), group(6000, 0, 299), group(9000, 0, 300)).map((a) => a.areaMm2);
		[300, 301, 299, 300].forEach((apart, i) => expect(areas[i]).toBeCloseTo(areaOf(apart), 6));
	});
	test('the same shapes in another order of dark and clear are no copy', () => {
		const before = ['%LPC*%', 'D11*', 'X2800Y0D03*', '%LPD*%', 'D10*', 'X3000Y0D03*', 'X3300Y0D03*'].join('\n');
		const [cut, whole] = layer(group(0, 0, 300), before);
		expect(cut!.areaMm2).toBeCloseTo(areaOf(300), 4);
		expect(whole!.areaMm2).toBeCloseTo(0.4, 4);
	});
});
