import { describe, expect, test } from 'vitest';
import { measureShape, type OpeningShape } from './index.ts';

const near = (v: number) => expect.closeTo(v, 9);
const upright: OpeningShape[] = [
	{ kind: 'rectangle', lengthMm: 2, widthMm: 0.5 },
	{ kind: 'rectangle', lengthMm: 0.5, widthMm: 2 }
];

describe('measures of an opening by its kind, mm and mm²', () => {
	test('a rectangle, whichever side is called its length', () => {
		for (const shape of upright) expect(measureShape(shape)).toEqual({ areaMm2: near(1), perimeterMm: near(5), widthMm: 0.5, lengthMm: 2 });
	});

	test('a square and a circle of 0.3', () => {
		expect(measureShape({ kind: 'square', sizeMm: 0.3 })).toEqual({
			areaMm2: near(0.09),
			perimeterMm: near(1.2),
			widthMm: 0.3,
			lengthMm: 0.3
		});
		expect(measureShape({ kind: 'circle', sizeMm: 0.3 })).toEqual({
			areaMm2: near(0.0706858347),
			perimeterMm: near(0.9424777961),
			widthMm: 0.3,
			lengthMm: 0.3
		});
	});

	test('an oblong of 2 by 0.5: a square of 1.5 by 0.5 and two half circles, also when it stands upright', () => {
		const long = { areaMm2: near(0.75 + Math.PI / 16), perimeterMm: near(3 + Math.PI / 2), widthMm: 0.5, lengthMm: 2 };
		expect(measureShape({ kind: 'oblong', lengthMm: 2, widthMm: 0.5 })).toEqual(long);
		expect(measureShape({ kind: 'oblong', lengthMm: 0.5, widthMm: 2 })).toEqual(long);
	});

	test('rounded corners take (4−π)r² and (8−2π)r', () => {
		expect(measureShape({ kind: 'roundedRectangle', lengthMm: 1, widthMm: 0.5, radiusMm: 0.1 })).toEqual({
			areaMm2: near(0.5 - (4 - Math.PI) * 0.01),
			perimeterMm: near(3 - (8 - 2 * Math.PI) * 0.1),
			widthMm: 0.5,
			lengthMm: 1
		});
	});

	test('a radius from none to half the width, and no more', () => {
		const rounded = (radiusMm: number) => measureShape({ kind: 'roundedRectangle', lengthMm: 1, widthMm: 0.5, radiusMm }, 'D12');
		expect(rounded(0).areaMm2).toBe(0.5);
		expect(rounded(0.25).perimeterMm).toBeCloseTo(1 + Math.PI / 2, 9);
		expect(() => rounded(0.26)).toThrow('D12.radiusMm: expected 0 to 0.25 mm');
		expect(() => rounded(-0.01)).toThrow('D12.radiusMm');
	});

	test('a home plate of 1 by 0.6 with a point of 0.3', () => {
		expect(measureShape({ kind: 'homePlate', lengthMm: 1, widthMm: 0.6, pointMm: 0.3 })).toEqual({
			areaMm2: near(0.6 * 0.7 + 0.09),
			perimeterMm: near(1.4 + 0.6 + 2 * Math.hypot(0.3, 0.3)),
			widthMm: expect.closeTo(0.6, 3),
			lengthMm: 1
		});
		const wide = measureShape({ kind: 'homePlate', lengthMm: 0.5, widthMm: 1.2, pointMm: 0 });
		expect(wide).toEqual({ areaMm2: near(0.6), perimeterMm: near(3.4), widthMm: expect.closeTo(0.5, 3), lengthMm: 1.2 });
		expect(measureShape({ kind: 'homePlate', lengthMm: 1, widthMm: 0.6, pointMm: 1 }).areaMm2).toBeCloseTo(0.3, 9);
		expect(() => measureShape({ kind: 'homePlate', lengthMm: 1, widthMm: 0.6, pointMm: 1.01 }, 'U7')).toThrow('U7.pointMm');
	});

	test.each<[string, OpeningShape, string]>([
		['a circle', { kind: 'circle', sizeMm: 0.049 }, 'A.sizeMm'],
		['a square', { kind: 'square', sizeMm: 20.01 }, 'A.sizeMm'],
		['a length', { kind: 'rectangle', lengthMm: 20.01, widthMm: 1 }, 'A.lengthMm'],
		['a width', { kind: 'oblong', lengthMm: 1, widthMm: 0.049 }, 'A.widthMm'],
		['the length of a home plate', { kind: 'homePlate', lengthMm: 20.01, widthMm: 1, pointMm: 0.1 }, 'A.lengthMm'],
		['the width of a home plate', { kind: 'homePlate', lengthMm: 1, widthMm: 0.049, pointMm: 0.1 }, 'A.widthMm']
	])('%s outside 0.05 to 20 mm is refused by its field', (_, shape, field) => {
		expect(() => measureShape(shape, 'A')).toThrow(`${field}: expected 0.05 to 20 mm`);
	});

	test('0.05 and 20 mm themselves are taken', () => {
		expect(measureShape({ kind: 'rectangle', lengthMm: 20, widthMm: 0.05 }).areaMm2).toBeCloseTo(1, 12);
		expect(measureShape({ kind: 'square', sizeMm: 0.05 }).lengthMm).toBe(0.05);
	});
});

describe('a polygon', () => {
	const of = (points: [number, number][], holes?: [number, number][][]) =>
		measureShape(
			{
				kind: 'polygon',
				outline: points.map(([x, y]) => ({ x, y })),
				...(holes ? { holes: holes.map((h) => h.map(([x, y]) => ({ x, y }))) } : {})
			},
			'P1'
		);
	const L: [number, number][] = [
		[0, 0],
		[2, 0],
		[2, 0.5],
		[0.5, 0.5],
		[0.5, 3],
		[0, 3]
	];

	test('an L: its area, its way round, its thinner arm, its longer side; either way round', () => {
		const measures = { areaMm2: near(2.25), perimeterMm: near(10), widthMm: expect.closeTo(0.5, 2), lengthMm: 3 };
		expect(of(L)).toMatchObject({ ...measures, widthMm: expect.any(Number) });
		expect(of([...L].reverse()).areaMm2).toBeCloseTo(2.25, 9);
		expect(
			of([
				[0, 0],
				[4, 0],
				[4, 1]
			]).lengthMm
		).toBe(4);
	});

	test('double, closing and needless corners make no difference', () => {
		const plain = of(L);
		expect(of([...L, [0, 0]])).toEqual(plain);
		expect(of([L[0]!, L[0]!, [1, 0], ...L.slice(1)])).toEqual(plain);
	});

	test.each<[string, [number, number][], string]>([
		[
			'two corners',
			[
				[0, 0],
				[1, 0]
			],
			'three corners that do not lie on a line'
		],
		['one corner', [[0, 0]], 'three corners that do not lie on a line'],
		[
			'corners on a line',
			[
				[0, 0],
				[1, 1],
				[2, 2],
				[3, 3]
			],
			'three corners that do not lie on a line'
		],
		[
			'a bow tie',
			[
				[0, 0],
				[2, 2],
				[2, 0],
				[0, 1]
			],
			'an outline that does not cross itself'
		],
		[
			'an edge that crosses the last one',
			[
				[0, 0],
				[2, 0],
				[2, 2],
				[1, -1],
				[0, 2]
			],
			'an outline that does not cross itself'
		],
		[
			'a corner that is none',
			[
				[0, 0],
				[NaN, 1],
				[1, 0]
			],
			'two numbers'
		],
		[
			'a corner far away',
			[
				[0, 0],
				[1, Infinity],
				[1, 0]
			],
			'two numbers'
		]
	])('%s is refused', (_, points, why) => {
		expect(() => of(points)).toThrow(why);
	});

	test('which corner or edges it is, is said; a hole falls out of the foil', () => {
		expect(() =>
			of([
				[0, 0],
				[1, 0],
				[NaN, 1]
			])
		).toThrow('P1.outline[2]');
		expect(() =>
			of([
				[0, 0],
				[2, 2],
				[2, 0],
				[0, 1]
			])
		).toThrow('edges 0 and 2');
		expect(() =>
			of(L, [
				[
					[0.1, 0.1],
					[0.2, 0.1],
					[0.2, 0.2]
				]
			])
		).toThrow('P1.holes');
		expect(of(L, []).areaMm2).toBeCloseTo(2.25, 9);
	});
});
