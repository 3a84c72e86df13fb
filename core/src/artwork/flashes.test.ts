import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { perimeter, signedArea } from '../geometry/index.ts';
import { plotGerber, readPasteLayer } from './index.ts';

// A tool is measured once and flashed many times: every flash must have the measures of its own outline, however it is turned, mirrored or scaled.

const HEAD = '%FSLAX35Y35*%\n%MOMM*%\n';
const MACRO = '%AMSOFT*21,1,$1,$2-$3-$3,0,0,0*21,1,$1-$3-$3,$2,0,0,0*1,1,$3+$3,$1/2-$3,$2/2-$3*1,1,$3+$3,$3-$1/2,$2/2-$3*%\n';
const TOOLS = [
	'%ADD10R,0.5X0.3*%',
	'%ADD11C,0.4*%',
	'%ADD12O,0.3X1.2*%',
	'%ADD13P,0.8X6X15*%',
	'%ADD14SOFT,0.75X0.85X0.06*%',
	'%ADD15C,0.9X0.4*%'
].join('\n');
const at = (x: number, y: number) => `X${Math.round(x * 1e5)}Y${Math.round(y * 1e5)}D03*`;

const flash = fc.record({
	tool: fc.constantFrom(10, 11, 12, 13, 15),
	x: fc.integer({ min: -40, max: 40 }),
	y: fc.integer({ min: -40, max: 40 }),
	mirror: fc.constantFrom('N', 'X', 'Y', 'XY'),
	deg: fc.integer({ min: 0, max: 359 }),
	scale: fc.constantFrom(1, 0.5, 1.7)
});

describe('flashes of one tool', () => {
	test('area and perimeter are those of the outline, whatever the transform', () => {
		fc.assert(
			fc.property(fc.array(flash, { minLength: 1, maxLength: 12 }), (flashes) => {
				const body = flashes.map(
					({ tool, x, y, mirror, deg, scale }) => `%LM${mirror}*%\n%LR${deg}*%\n%LS${scale}*%\nD${tool}*\n${at(x, y)}`
				);
				const { shapes, issues } = plotGerber(`${HEAD}${TOOLS.replace('%ADD14SOFT,0.75X0.85X0.06*%\n', '')}\n${body.join('\n')}\nM02*`);
				expect(issues).toEqual([]);
				expect(shapes).toHaveLength(flashes.length);
				shapes.forEach(({ outline, holes, measures }, i) => {
					const area = Math.abs(signedArea(outline)) - holes.reduce((sum, hole) => sum + Math.abs(signedArea(hole)), 0);
					const wall = perimeter(outline) + holes.reduce((sum, hole) => sum + perimeter(hole), 0);
					// Circles and oblongs are measured by formula: the chords of their drawing lie a micrometre inside.
					expect(area / measures.areaMm2, `flash ${i}`).toBeGreaterThan(0.975);
					expect(area / measures.areaMm2).toBeLessThan(1.000001);
					expect(wall / measures.perimeterMm).toBeGreaterThan(0.985);
					expect(wall / measures.perimeterMm).toBeLessThan(1.000001);
				});
			}),
			{ numRuns: 60, seed: 41 }
		);
	});

	test('a flash stands where it was flashed: the same outline moved, none shared with another', () => {
		const { shapes } = plotGerber(`${HEAD}${MACRO}${TOOLS}\nD10*\n${at(1, 2)}\n${at(5, 7)}\nM02*`);
		const [a, b] = shapes;
		expect(a!.outline).not.toBe(b!.outline);
		a!.outline.forEach((p, i) => {
			expect(b!.outline[i]!.x - p.x).toBeCloseTo(4, 9);
			expect(b!.outline[i]!.y - p.y).toBeCloseTo(5, 9);
		});
	});

	test('a scaled flash has its own width, not the one of the tool at its own size', () => {
		const { apertures } = readPasteLayer(
			`${HEAD}${TOOLS.replace('%ADD14SOFT,0.75X0.85X0.06*%\n', '')}\nD13*\n${at(0, 0)}\n%LS0.5*%\n${at(5, 0)}\n%LS1.0*%\n${at(10, 0)}\nM02*`
		);
		const widths = apertures.map((a) => a.widthMm);
		// A hexagon across its flats.
		expect(widths[0]!).toBeCloseTo(0.8 * Math.cos(Math.PI / 6), 2);
		expect(widths[1]!).toBeCloseTo(widths[0]! / 2, 2);
		expect(widths[2]!).toBeCloseTo(widths[0]!, 6);
	});

	test('a turned or mirrored flash keeps the width of its tool', () => {
		const { apertures } = readPasteLayer(
			`${HEAD}${TOOLS.replace('%ADD14SOFT,0.75X0.85X0.06*%\n', '')}\nD13*\n${at(0, 0)}\n%LR33*%\n${at(5, 0)}\n%LMX*%\n${at(10, 0)}\nM02*`
		);
		for (const a of apertures) expect(a.widthMm).toBeCloseTo(apertures[0]!.widthMm, 3);
	});
});
