import { describe, expect, test } from 'vitest';
import { rotate, type Ring } from '../geometry/index.ts';
import { applyRule, applyRules, frameOf, openingsCsv, STENCIL_RULES, websOf, writePasteLayer, type LayerOpening } from './index.ts';

const box = (x: number, y: number, l: number, w: number, deg = 0): Ring =>
	[
		{ x: -l / 2, y: -w / 2 },
		{ x: l / 2, y: -w / 2 },
		{ x: l / 2, y: w / 2 },
		{ x: -l / 2, y: w / 2 }
	].map((p) => {
		const q = rotate(p, deg);
		return { x: q.x + x, y: q.y + y };
	});
const opening = (x: number, y: number, l: number, w: number, more: Partial<LayerOpening> = {}): LayerOpening => ({
	outline: box(x, y, l, w),
	centre: { x, y },
	shape: 'rectangle',
	areaMm2: l * w,
	perimeterMm: 2 * (l + w),
	widthMm: Math.min(l, w),
	lengthMm: Math.max(l, w),
	refDes: null,
	pin: null,
	padClass: 'chip',
	...more
});
const body = (text: string) => text.split('G01*\n')[1]!.split('\n');

describe('the paste layer that a stencil maker gets, line by line', () => {
	const write = (openings: LayerOpening[], side: 'top' | 'bottom' = 'top') =>
		writePasteLayer(openings, { side, name: 'Frost 50% *rev 2*' });

	test('head and end; what would end a comment is taken out of the name', () => {
		const lines = write([], 'bottom').split('\n');
		expect(lines).toEqual([
			'G04 Frost 50   rev 2 *',
			'%TF.FileFunction,Paste,Bot*%',
			'%TF.FilePolarity,Positive*%',
			'%FSLAX35Y35*%',
			'%MOMM*%',
			'%LPD*%',
			'G01*',
			'M02*',
			''
		]);
		expect(write([]).split('\n')[1]).toBe('%TF.FileFunction,Paste,Top*%');
	});

	test('equal openings share a tool, which is called once; another one gets the next number', () => {
		const text = write([opening(1, 2, 0.5, 0.3), opening(3, 2, 0.5, 0.3), opening(5, 2, 0.3, 0.5), opening(7, 2, 0.5, 0.3)]);
		expect(text).toContain('%ADD10R,0.500000X0.300000*%\n%ADD11R,0.300000X0.500000*%\nG01*');
		expect(body(text)).toEqual([
			'D10*',
			'X100000Y200000D03*',
			'X300000Y200000D03*',
			'D11*',
			'X500000Y200000D03*',
			'D10*',
			'X700000Y200000D03*',
			'M02*',
			''
		]);
	});

	test('circles and upright oblongs are flashed, what is turned or cut is drawn', () => {
		const text = write([
			opening(1, 1, 0.4, 0.4, { shape: 'circle' }),
			opening(2, 1, 1, 0.4, { shape: 'obround' }),
			opening(3, 1, 1, 0.4, { outline: box(3, 1, 1, 0.4, 30) }),
			opening(4, 1, 1, 0.4, { shape: 'polygon' })
		]);
		expect(text).toContain('%ADD10C,0.400000*%\n%ADD11O,1.000000X0.400000*%\nG01*');
		expect(text.match(/G36\*/g)).toHaveLength(2);
		const region = text.slice(text.lastIndexOf('G36*'));
		expect(region.split('\n')).toEqual([
			'G36*',
			'X350000Y80000D02*',
			'G01*',
			'X450000Y80000D01*',
			'X450000Y120000D01*',
			'X350000Y120000D01*',
			'X350000Y80000D01*',
			'G37*',
			'M02*',
			''
		]);
	});

	test('designator and pin go with an opening, and no further than it', () => {
		const text = write([
			opening(1, 1, 1, 0.5, { refDes: 'U7', pin: '2' }),
			opening(2, 1, 1, 0.5, { refDes: 'U7', pin: '2' }),
			opening(3, 1, 1, 0.5, { refDes: 'C,1*' }),
			opening(4, 1, 1, 0.5)
		]);
		expect(body(text)).toEqual([
			'%TO.P,U7,2*%',
			'D10*',
			'X100000Y100000D03*',
			'X200000Y100000D03*',
			'%TD*%',
			'%TO.C,C\\u002c1\\u002a*%',
			'X300000Y100000D03*',
			'%TD*%',
			'X400000Y100000D03*',
			'M02*',
			''
		]);
		expect(body(write([opening(1, 1, 1, 0.5, { refDes: 'U7' })])).slice(-3)).toEqual(['%TD*%', 'M02*', '']);
	});
});

test('the table for the stencil maker: one line an opening, in the units of its heads', () => {
	const [head, first, second, end] = openingsCsv(
		[opening(1, 2, 0.5, 0.4, { refDes: 'U7', pin: '3' }), opening(3, 4, 1, 1, { refDes: 'J"1,', shape: 'polygon' })],
		100
	).split('\n');
	expect(head).toBe('opening,refdes,pin,package_class,shape,x_mm,y_mm,length_mm,width_mm,area_mm2,perimeter_mm,foil_um,area_ratio');
	expect(first).toBe('1,U7,3,chip,rectangle,1.0000,2.0000,0.5000,0.4000,0.20000,1.8000,100,1.111');
	expect(second).toBe('2,"J""1,",,chip,polygon,3.0000,4.0000,1.0000,1.0000,1.00000,4.0000,100,2.500');
	expect(end).toBe('');
});

describe('what a rule makes of an opening, to the corner', () => {
	const corners = (ring: Ring) => ring.map(({ x, y }) => [Math.round(x * 1e4) / 1e4 + 0, Math.round(y * 1e4) / 1e4 + 0]);

	test('a home plate looks along its own axis to its part, whichever of four ways that is', () => {
		const plate = (towards: { x: number; y: number }) =>
			corners(applyRule(box(5, 5, 2, 1), { kind: 'homePlate', pointShare: 0.25 }, towards)[0]!);
		const tip = (ring: number[][]) => ring[2];
		expect(plate({ x: 20, y: 6 })).toEqual([
			[4, 4.5],
			[5.5, 4.5],
			[6, 5],
			[5.5, 5.5],
			[4, 5.5]
		]);
		expect(tip(plate({ x: -20, y: 6 }))).toEqual([4, 5]);
		// Across, the point is a quarter of the shorter side.
		expect(tip(plate({ x: 5.2, y: 30 }))).toEqual([5, 5.5]);
		expect(plate({ x: 5.2, y: 30 })).toContainEqual([4, 5.25]);
		expect(tip(plate({ x: 5.2, y: -30 }))).toEqual([5, 4.5]);
	});

	test('an inverted one has its notch there', () => {
		expect(corners(applyRule(box(5, 5, 2, 1), { kind: 'invertedHomePlate', pointShare: 0.25 }, { x: 20, y: 5 })[0]!)).toEqual([
			[4, 4.5],
			[6, 4.5],
			[5.5, 5],
			[6, 5.5],
			[4, 5.5]
		]);
	});

	test('a square without a radius keeps four corners; with one it stays within its sides', () => {
		expect(corners(applyRule(box(1, 1, 0.4, 0.4), { kind: 'roundedSquare', radiusShare: 0 }, null)[0]!)).toEqual([
			[0.8, 0.8],
			[1.2, 0.8],
			[1.2, 1.2],
			[0.8, 1.2]
		]);
		const ring = applyRule(box(0, 0, 0.4, 0.4), { kind: 'roundedSquare', radiusShare: 0.25 }, null)[0]!;
		expect(Math.max(...ring.map((p) => p.x))).toBeCloseTo(0.2, 9);
		expect(corners(ring)).toContainEqual([0.1, -0.2]);
		// Round enough that no chord lies more than 1 µm inside its arc.
		const gap = Math.min(
			...ring
				.map((p, i) => Math.hypot((p.x + ring[(i + 1) % ring.length]!.x) / 2 - 0.1, (p.y + ring[(i + 1) % ring.length]!.y) / 2 - 0.1))
				.filter((d) => d < 0.1)
		);
		expect(gap).toBeGreaterThan(0.0989);
	});

	test('a turned square stays turned, a circle becomes an upright one', () => {
		const turned = applyRule(box(0, 0, 0.4, 0.4, 30), { kind: 'roundedSquare', radiusShare: 0 }, null)[0]!;
		expect(frameOf(turned).alongDeg % 90).toBeCloseTo(30, 3);
		const circle = Array.from({ length: 48 }, (_, i) => ({
			x: 0.2 * Math.cos(((i + 0.4) / 48) * 2 * Math.PI),
			y: 0.2 * Math.sin(((i + 0.4) / 48) * 2 * Math.PI)
		}));
		expect(frameOf(applyRule(circle, { kind: 'roundedSquare', radiusShare: 0 }, null)[0]!).alongDeg % 90).toBeCloseTo(0, 6);
	});

	test('windows start where the rule says, and share the pad', () => {
		const rule = { kind: 'windows' as const, coverage: 0.6, marginMm: 0.1, overMm: 3 };
		expect(applyRule(box(0, 0, 3, 2), rule, null)).toHaveLength(1);
		const panes = applyRule(box(0, 0, 3.01, 2), rule, null);
		expect(panes.length).toBeGreaterThan(1);
		expect(Math.min(...panes.flat().map((p) => p.x))).toBeCloseTo(-3.01 / 2 + 0.1, 9);
		expect(Math.max(...panes.flat().map((p) => p.y))).toBeCloseTo(0.9, 9);
		// A slim bar takes no window of the usual sizes: it is divided all the same, one row of them.
		const bar = applyRule(box(0, 0, 4, 0.5), { ...rule, marginMm: 0 }, null);
		expect(bar).toHaveLength(2);
	});

	test('the frame is the smallest of all directions, its longer side first', () => {
		const f = frameOf(box(2, 1, 1, 3));
		expect(f).toEqual({ centre: { x: expect.closeTo(2, 9), y: expect.closeTo(1, 9) }, alongDeg: 90, lengthMm: 3, widthMm: 1 });
		const triangle = frameOf([
			{ x: 0, y: 0 },
			{ x: 4, y: 0 },
			{ x: 0, y: 3 }
		]);
		expect(triangle.lengthMm * triangle.widthMm).toBeCloseTo(12, 6);
		expect(() => frameOf([])).toThrow('outline');
	});
});

describe('a layer under the rules', () => {
	const rules = { ...STENCIL_RULES, chip: { kind: 'homePlate' as const, pointShare: 0.3 } };

	test('plates look at the middle of their part’s openings; one without a partner stays as drawn', () => {
		const [left, right, alone, nobody] = applyRules(
			[
				opening(0, 0, 1, 0.6, { refDes: 'R1' }),
				opening(2, 0, 1, 0.6, { refDes: 'R1' }),
				opening(9, 9, 1, 0.6, { refDes: 'R2' }),
				opening(12, 9, 1, 0.6)
			],
			rules
		);
		expect(Math.max(...left!.outline.map((p) => p.x))).toBeCloseTo(0.5, 9);
		expect(left!.outline.filter((p) => p.x > 0.499)).toHaveLength(1);
		expect(right!.outline.filter((p) => p.x < 1.501)).toHaveLength(1);
		expect([alone!.outline.length, nobody!.outline.length]).toEqual([4, 4]);
		// Cut ones are measured again: their middle moves away from the point.
		expect(left).toMatchObject({ shape: 'polygon', from: 0, refDes: 'R1', areaMm2: expect.closeTo(0.6 - 0.3 * 0.3, 9) });
		expect(left!.centre.x).toBeLessThan(0);
		expect(alone).toMatchObject({ shape: 'rectangle', from: 2 });
	});

	test('what is only made smaller stays a rectangle with its own sides', () => {
		const [cut] = applyRules([opening(0, 0, 1, 0.5)], { ...rules, chip: { kind: 'reduce', widthPct: 10, lengthPct: 20 } });
		expect(cut).toMatchObject({
			shape: 'rectangle',
			lengthMm: expect.closeTo(0.8, 9),
			widthMm: expect.closeTo(0.45, 9),
			perimeterMm: expect.closeTo(2.5, 9)
		});
	});
});

describe('webs between openings of every shape, mm', () => {
	const web = (a: LayerOpening, b: LayerOpening) => websOf([a, b], 2).map((w) => w.webMm);
	const circle = (x: number, y: number, d: number) => opening(x, y, d, d, { shape: 'circle' });
	const drawn = (ring: Ring) => opening(0, 0, 1, 1, { outline: ring, shape: 'polygon' });

	test('side by side, corner to corner, over each other', () => {
		expect(web(opening(0, 0, 1, 1), opening(1.5, 0, 1, 1))).toEqual([expect.closeTo(0.5, 9), expect.closeTo(0.5, 9)]);
		expect(web(opening(0, 0, 1, 1), opening(1.3, 1.4, 1, 1))[0]).toBeCloseTo(0.5, 9);
		expect(web(opening(0, 0, 1, 1), opening(0.5, 0.5, 1, 1))[0]).toBe(0);
	});

	test('circles, and a circle beside a box', () => {
		expect(web(circle(0, 0, 1), circle(0.9, 1.2, 1))[0]).toBeCloseTo(0.5, 9);
		expect(web(circle(0, 0, 0.4), opening(1, 0, 1, 1))[0]).toBeCloseTo(0.3, 9);
		expect(web(opening(1, 1, 1, 1), circle(0.2, 0.1, 0.2))[0]).toBeCloseTo(0.5 - 0.1, 9);
		expect(web(circle(0, 0, 1), circle(0.3, 0, 1))[0]).toBe(0);
	});

	test('drawn shapes: corner to edge, edge to edge, crossing, one inside the other', () => {
		const arrow = drawn([
			{ x: 0, y: 0 },
			{ x: 1, y: 0.5 },
			{ x: 0, y: 1 }
		]);
		expect(web(arrow, drawn(box(1.9, 0.5, 1, 3)))[0]).toBeCloseTo(0.4, 9);
		expect(web(arrow, drawn(box(0.5, 1.9, 1, 1)))[0]).toBeCloseTo(0.4, 9);
		expect(web(arrow, drawn(box(1, 0.5, 0.4, 0.1)))[0]).toBe(0);
		expect(web(drawn(box(0, 0, 3, 3)), drawn(box(0.2, 0.1, 0.5, 0.5)))[0]).toBe(0);
		// A cross: no corner of one lies in the other.
		expect(web(drawn(box(0, 0, 3, 0.5)), drawn(box(0, 0, 0.5, 3)))[0]).toBe(0);
	});

	test('the nearest neighbour is named; none within reach is none', () => {
		const row = [opening(0, 0, 1, 1), opening(1.6, 0, 1, 1), opening(2.9, 0, 1, 1), opening(9, 0, 1, 1)];
		expect(websOf(row, 1).map((w) => w.neighbour)).toEqual([1, 2, 1, null]);
		expect(websOf(row, 0.2).every((w) => w.webMm === null)).toBe(true);
		expect(websOf([], 1)).toEqual([]);
	});
});
