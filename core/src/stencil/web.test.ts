import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readPasteLayer } from '../artwork/index.ts';
import { websOf } from './index.ts';

const layer = (body: string) =>
	readPasteLayer(
		`%FSLAX35Y35*%\n%MOMM*%\n%AMTURN*21,1,$1,$2,0,0,45*%\n%ADD10R,0.5X0.3*%\n%ADD11C,0.4*%\n%ADD12TURN,1X1*%\n%ADD13O,0.8X0.2*%\n${body}\nM02*`
	).apertures;
const flash = (d: number, x: number, y: number) => `D${d}*\nX${Math.round(x * 1e5)}Y${Math.round(y * 1e5)}D03*`;

describe('webs of foil', () => {
	test.each([
		{ what: 'two bars side by side', body: [flash(10, 0, 0), flash(10, 0.75, 0)], webMm: 0.25 },
		{ what: 'two bars corner to corner', body: [flash(10, 0, 0), flash(10, 0.8, 0.7)], webMm: Math.hypot(0.3, 0.4) },
		{ what: 'two discs', body: [flash(11, 0, 0), flash(11, 0.3, 0.4)], webMm: 0.1 },
		{ what: 'a disc and a bar', body: [flash(11, 0, 0), flash(10, 0.85, 0)], webMm: 0.4 },
		{ what: 'a turned square and a bar', body: [flash(12, 0, 0), flash(10, 1.2, 0)], webMm: 0.95 - Math.SQRT1_2 },
		{ what: 'two obrounds end to end', body: [flash(13, 0, 0), flash(13, 1, 0)], webMm: 0.2 }
	])('$what', ({ body, webMm }) => {
		const [first, second] = websOf(layer(body.join('\n')));
		expect(first!.webMm).toBeCloseTo(webMm, 3);
		expect(second).toMatchObject({ neighbour: 0 });
		expect(second!.webMm).toBe(first!.webMm);
	});

	test('beyond reach there is none', () => {
		expect(websOf(layer([flash(10, 0, 0), flash(10, 9, 0)].join('\n')))).toEqual([
			{ webMm: null, neighbour: null },
			{ webMm: null, neighbour: null }
		]);
	});

	test('the grid finds what looking at every pair finds (property)', () => {
		const places = fc.uniqueArray(
			fc.record({ x: fc.integer({ min: 0, max: 14 }), y: fc.integer({ min: 0, max: 14 }), d: fc.constantFrom(10, 11, 13) }),
			{
				minLength: 2,
				maxLength: 25,
				selector: ({ x, y }) => `${x} ${y}`
			}
		);
		fc.assert(
			fc.property(places, (list) => {
				const openings = layer(list.map(({ x, y, d }) => flash(d, x * 0.9, y * 0.7)).join('\n'));
				const all = websOf(openings);
				openings.forEach((a, i) => {
					const alone = openings.flatMap((b, j) => (i === j ? [] : [websOf([a, b])[0]!.webMm ?? Infinity]));
					expect(all[i]!.webMm ?? Infinity).toBeCloseTo(Math.min(...alone), 9);
				});
			}),
			{ numRuns: 30 }
		);
	});
});
