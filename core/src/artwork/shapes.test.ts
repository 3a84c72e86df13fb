import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { centroid, perimeter, rotate, signedArea, type Ring } from '../geometry/index.ts';
import { insetPieces, subtract, unite, type Area } from '../geometry/index.ts';
import { governingWidth } from '../geometry/index.ts';
import { drawMacro } from './gerber-macro.ts';
import { readSyntax } from './gerber-syntax.ts';
import {
	arcPoints,
	capsuleRing,
	circleRing,
	measure,
	measureRing,
	obroundRing,
	rectangleRing,
	regularPolygonRing
} from './standard-shapes.ts';

const ORIGIN = { x: 0, y: 0 };
const size = fc.double({ min: 0.2, max: 8, noNaN: true });
const area = (outline: Ring): Area => ({ outline, holes: [] });
const total = (areas: readonly Area[]) =>
	areas.reduce((sum, a) => sum + Math.abs(signedArea(a.outline)) - a.holes.reduce((s, hole) => s + Math.abs(signedArea(hole)), 0), 0);

describe('formula and drawing agree', () => {
	test('circle: the chords lose less than 1 % of a 0.2 mm opening and less the larger it is', () => {
		fc.assert(
			fc.property(size, (diameterMm) => {
				const drawn = Math.abs(signedArea(circleRing(ORIGIN, diameterMm)));
				const exact = measure({ shape: 'circle', diameterMm }).areaMm2;
				expect(drawn).toBeLessThanOrEqual(exact);
				expect(drawn / exact).toBeGreaterThan(0.985);
			})
		);
	});

	test('no point of an arc leaves it by more than 1 µm', () => {
		fc.assert(
			fc.property(
				size,
				fc.double({ min: -360, max: 360, noNaN: true }),
				fc.double({ min: 1, max: 360, noNaN: true }),
				(radius, from, sweep) => {
					const points = arcPoints(ORIGIN, radius, from, sweep);
					for (let i = 1; i < points.length; i++) {
						const middle = { x: (points[i]!.x + points[i - 1]!.x) / 2, y: (points[i]!.y + points[i - 1]!.y) / 2 };
						expect(radius - Math.hypot(middle.x, middle.y)).toBeLessThan(0.00101);
					}
				}
			),
			{ numRuns: 60 }
		);
	});

	test('rectangle: exact in area and perimeter', () => {
		fc.assert(
			fc.property(size, size, (xSizeMm, ySizeMm) => {
				const exact = measure({ shape: 'rectangle', xSizeMm, ySizeMm });
				const ring = rectangleRing({ x: 3, y: -2 }, xSizeMm, ySizeMm);
				expect(Math.abs(signedArea(ring))).toBeCloseTo(exact.areaMm2, 9);
				expect(perimeter(ring)).toBeCloseTo(exact.perimeterMm, 9);
				expect(exact.widthMm).toBe(Math.min(xSizeMm, ySizeMm));
				expect(exact.lengthMm).toBe(Math.max(xSizeMm, ySizeMm));
			})
		);
	});

	test('oblong: within chords, and the same whichever side is longer', () => {
		fc.assert(
			fc.property(size, size, (a, b) => {
				const exact = measure({ shape: 'obround', xSizeMm: a, ySizeMm: b });
				const turned = measure({ shape: 'obround', xSizeMm: b, ySizeMm: a });
				expect(exact).toEqual(turned);
				expect(Math.abs(signedArea(obroundRing(ORIGIN, a, b))) / exact.areaMm2).toBeGreaterThan(0.985);
			})
		);
	});

	test('a capsule is an oblong laid along its line', () => {
		const ring = capsuleRing({ x: 1, y: 1 }, { x: 4, y: 5 }, 0.6);
		expect(Math.abs(signedArea(ring))).toBeCloseTo(5 * 0.6 + Math.PI * 0.09, 2);
		const c = centroid(ring);
		expect([c.x, c.y].map((v) => Number(v.toFixed(6)))).toEqual([2.5, 3]);
	});

	test('a regular polygon stands on its first vertex', () => {
		const ring = regularPolygonRing(ORIGIN, 2, 4, 0);
		expect(Math.abs(signedArea(ring))).toBeCloseTo(2, 12);
		expect(ring[0]).toEqual({ x: 1, y: 0 });
		expect(regularPolygonRing(ORIGIN, 2, 4, 90)[0]!.y).toBe(1);
	});

	test('holes count: less area, more wall', () => {
		const outer = rectangleRing(ORIGIN, 4, 4);
		const hole = rectangleRing(ORIGIN, 1, 1);
		const m = measureRing(outer, [hole]);
		expect(m).toMatchObject({ areaMm2: 15, perimeterMm: 20, lengthMm: 4, widthMm: null });
	});
});

describe('uniting and cutting', () => {
	test('what is cut away and what stays add up to the whole', () => {
		fc.assert(
			fc.property(
				size,
				size,
				size,
				size,
				fc.double({ min: -4, max: 4, noNaN: true }),
				fc.double({ min: -4, max: 4, noNaN: true }),
				(w1, h1, w2, h2, dx, dy) => {
					const a = area(rectangleRing(ORIGIN, w1, h1));
					const b = area(rectangleRing({ x: dx, y: dy }, w2, h2));
					const overlap = w1 * h1 - total(subtract([a], [b]));
					expect(overlap).toBeGreaterThanOrEqual(-1e-3);
					expect(total(unite([a, b]))).toBeCloseTo(w1 * h1 + w2 * h2 - overlap, 2);
				}
			),
			{ numRuns: 80 }
		);
	});

	test('uniting does not care for the order, nor for the winding', () => {
		const a = area(rectangleRing(ORIGIN, 2, 2));
		const b = area([...rectangleRing({ x: 1, y: 1 }, 2, 2)].reverse());
		expect(total(unite([a, b]))).toBeCloseTo(7, 6);
		expect(total(unite([b, a]))).toBeCloseTo(7, 6);
	});

	test('a hole stays a hole, and a piece inside it is a piece of its own', () => {
		const ring = subtract([area(rectangleRing(ORIGIN, 6, 6))], [area(rectangleRing(ORIGIN, 4, 4))]);
		expect(ring).toHaveLength(1);
		expect(ring[0]!.holes).toHaveLength(1);
		const both = unite([...ring, area(rectangleRing(ORIGIN, 1, 1))]);
		expect(both).toHaveLength(2);
		expect(total(both)).toBeCloseTo(21, 6);
	});

	test('cutting everything leaves nothing; cutting nothing leaves it as it was', () => {
		const a = area(rectangleRing(ORIGIN, 1, 1));
		expect(subtract([a], [area(rectangleRing(ORIGIN, 2, 2))])).toEqual([]);
		expect(total(subtract([a], [area(rectangleRing({ x: 9, y: 9 }, 1, 1))]))).toBeCloseTo(1, 9);
		expect(unite([])).toEqual([]);
	});
});

describe('governing width', () => {
	test('a rectangle gives its short side at any angle', () => {
		fc.assert(
			fc.property(size, size, fc.double({ min: 0, max: 180, noNaN: true }), (a, b, degrees) => {
				const outline = rectangleRing(ORIGIN, a, b).map((p) => rotate(p, degrees));
				expect(Math.abs(governingWidth(area(outline)) - Math.min(a, b))).toBeLessThan(0.002);
			}),
			{ numRuns: 60 }
		);
	});

	test('a circle gives its diameter, a capsule its tool', () => {
		expect(governingWidth(area(circleRing(ORIGIN, 0.4)))).toBeCloseTo(0.4, 2);
		expect(governingWidth(area(capsuleRing(ORIGIN, { x: 2, y: 0 }, 0.25)))).toBeCloseTo(0.25, 2);
	});

	test('a neck governs, not the pads on both of its ends', () => {
		const dumbbell = unite([
			area(rectangleRing({ x: -1, y: 0 }, 1, 1)),
			area(rectangleRing({ x: 1, y: 0 }, 1, 1)),
			area(rectangleRing(ORIGIN, 2, 0.3))
		]);
		expect(governingWidth(dumbbell[0]!)).toBeCloseTo(0.3, 3);
	});

	test('an arm that ends does not split: the L of the check values gives 0.4', () => {
		const l = [0, 0, 1.2, 0, 1.2, 0.3, 0.4, 0.3, 0.4, 0.9, 0, 0.9];
		const outline = Array.from({ length: 6 }, (_, i) => ({ x: l[2 * i]!, y: l[2 * i + 1]! }));
		expect(governingWidth(area(outline))).toBeCloseTo(0.4, 3);
	});

	test('of two necks the narrower one governs, whichever way round the outline runs', () => {
		const chain = unite([
			area(rectangleRing({ x: -2, y: 0 }, 1, 1)),
			area(rectangleRing({ x: 0, y: 0 }, 1, 1)),
			area(rectangleRing({ x: 2, y: 0 }, 1, 1)),
			area(rectangleRing({ x: -1, y: 0.1 }, 2, 0.45)),
			area(rectangleRing({ x: 1, y: -0.2 }, 2, 0.22))
		])[0]!;
		expect(governingWidth(chain)).toBeCloseTo(0.22, 3);
		expect(governingWidth(area([...chain.outline].reverse()))).toBeCloseTo(0.22, 3);
	});

	test('a neck between two round bites is the gap between them', () => {
		const bitten = subtract(
			[area(rectangleRing(ORIGIN, 3, 1))],
			[area(circleRing({ x: 0, y: 0.65 }, 1)), area(circleRing({ x: 0.1, y: -0.65 }, 1))]
		)[0]!;
		expect(governingWidth(bitten)).toBeCloseTo(Math.hypot(0.1, 1.3) - 1, 2);
	});

	test('any drawn shape: the first of small insets that leaves other than one piece', () => {
		const stepMm = 0.002;
		const firstBroken = (shape: Area) => {
			let inset = stepMm;
			while (insetPieces(shape, inset) === 1) inset += stepMm;
			return 2 * inset;
		};
		fc.assert(
			fc.property(fc.array(fc.double({ min: 0.25, max: 1, noNaN: true }), { minLength: 5, maxLength: 24 }), (radii) => {
				const outline = radii.map((r, i) => {
					const angle = (2 * Math.PI * i) / radii.length;
					return { x: r * Math.cos(angle), y: r * Math.sin(angle) };
				});
				const [found, scanned] = [governingWidth(area(outline)), firstBroken(area(outline))];
				// What splits off for less than a step is too small to be seen by stepping.
				expect(found).toBeLessThan(scanned + 0.001);
				if (found < scanned - 2 * stepMm - 0.001) expect(insetPieces(area(outline), found / 2 + 0.0003)).not.toBe(1);
			}),
			{ numRuns: 80, seed: 5 }
		);
	});

	test('moved and turned, the width stays', () => {
		fc.assert(
			fc.property(fc.double({ min: 0, max: 360, noNaN: true }), fc.double({ min: -50, max: 50, noNaN: true }), (degrees, shift) => {
				const l = unite([area(rectangleRing({ x: 0.5, y: 0 }, 2, 0.3)), area(rectangleRing({ x: 0, y: 0.5 }, 0.5, 1.6))])[0]!;
				const moved = l.outline.map((p) => rotate(p, degrees)).map((p) => ({ x: p.x + shift, y: p.y - shift }));
				expect(Math.abs(governingWidth(area(moved)) - governingWidth(l))).toBeLessThan(0.001);
			}),
			{ numRuns: 40, seed: 3 }
		);
	});
});

describe('macros', () => {
	const draw = (body: string, values: number[] = []) => {
		const { nodes } = readSyntax(`%FSLAX34Y34*%\n%MOMM*%\n%AMT*${body}*%\nM02*\n`);
		const macro = nodes.find((node) => node.type === 'toolMacro');
		if (macro?.type !== 'toolMacro') throw new Error('no macro was read');
		return drawMacro(macro.children, values, 1);
	};

	test.each([
		{ what: 'circle', body: '1,1,2,0,0,0', expected: Math.PI },
		{ what: 'vector line', body: '20,1,0.5,0,0,3,0,0', expected: 1.5 },
		{ what: 'centre line', body: '21,1,3,0.5,1,1,30', expected: 1.5 },
		{ what: 'lower left line', body: '22,1,3,0.5,0,0,0', expected: 1.5 },
		{ what: 'outline', body: '4,1,3,0,0,2,0,0,2,0,0,0', expected: 2 },
		{ what: 'hexagon', body: '5,1,6,0,0,2,0', expected: 1.5 * Math.sqrt(3) }
	])('$what', ({ body, expected }) => {
		const image = draw(body);
		expect(image.unsupported).toEqual([]);
		expect(Math.abs(total(image.areas) / expected - 1)).toBeLessThan(0.004);
	});

	test('a thermal is four quarters of a ring', () => {
		const image = draw('7,0,0,3,2,0.4,45');
		expect(image.areas).toHaveLength(4);
		const ring = (Math.PI * (9 - 4)) / 4;
		expect(total(image.areas)).toBeLessThan(ring);
		expect(total(image.areas)).toBeGreaterThan(ring - 4 * 0.4 * 0.56);
	});

	test('values are put in, and arithmetic follows its signs', () => {
		const image = draw('21,1,$1+$2,$1-$2x2,0,0,0', [3, 0.5]);
		expect(total(image.areas)).toBeCloseTo(3.5 * 2, 6);
		expect(total(draw('$3=$1/2*21,1,$3,1,0,0,0', [3]).areas)).toBeCloseTo(1.5, 6);
	});

	test('a single centred primitive keeps its formula, a pair does not', () => {
		expect(draw('1,1,2,0,0').exact).toEqual({ shape: 'circle', diameterMm: 2 });
		expect(draw('21,1,3,1,0,0,90').exact).toMatchObject({ shape: 'rectangle' });
		expect(draw('1,1,2,0.5,0').exact).toBeNull();
		expect(draw('1,1,2,0,0*1,1,1,2,0').exact).toBeNull();
	});

	test('a primitive that we do not draw is named', () => {
		expect(draw('6,0,0,5,0.1,0.1,3,0.1,6,0').unsupported).toEqual(['6']);
	});
});
