import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readPasteLayer } from '../artwork/index.ts';
import { applyRule, applyRules, checkRule, judgeWebs, STENCIL_RULES, websOf, writePasteLayer } from './index.ts';

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

	test('an opening that joins two pins has no web, is named by them, and outranks every other', () => {
		const layerOf = (joins?: string[]) =>
			layer([flash(10, 0, 0), flash(10, 0.75, 0)].join('\n')).map((o, i) => (i === 0 && joins ? { ...o, joins } : o));
		const judged = judgeWebs(websOf(layerOf(['U1.3', 'U1.4'])), 0.12, (i) => `opening ${i}`);
		expect(judged.results).toEqual(['fail', 'pass']);
		expect(judged.verdict).toMatchObject({
			level: 'act',
			statement: '1 web of foil is too thin: the openings of U1.3, U1.4 overlap, 0 mm.'
		});
		expect(judged.verdict.because[0]).toMatchObject({ value: 0, unit: 'mm' });
		expect(judgeWebs(websOf(layerOf()), 0.12, String).verdict.level).toBe('good');
	});

	test.each([
		{ what: 'a cross of two bars', a: [3, 0.4], b: [0.4, 3] },
		{ what: 'a small one inside a large one', a: [3, 3], b: [0.4, 0.2] }
	])('openings that lie over each other leave no web: $what', ({ a, b }) => {
		const drawn = (size: number[]) => ({
			outline: [
				{ x: -size[0]! / 2, y: -size[1]! / 2 },
				{ x: size[0]! / 2, y: -size[1]! / 2 },
				{ x: size[0]! / 2, y: size[1]! / 2 },
				{ x: -size[0]! / 2, y: size[1]! / 2 }
			],
			centre: { x: 0, y: 0 },
			shape: 'polygon',
			widthMm: Math.min(...size),
			lengthMm: Math.max(...size)
		});
		expect(websOf([drawn(a), drawn(b)])).toEqual([
			{ webMm: 0, neighbour: 1 },
			{ webMm: 0, neighbour: 0 }
		]);
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

describe('the layer for the stencil maker', () => {
	const drawn = readPasteLayer(
		[
			'%FSLAX35Y35*%',
			'%MOMM*%',
			'%ADD10R,0.5X0.54*%',
			'%ADD11C,0.27*%',
			'%ADD12O,0.3X1.2*%',
			...['R1', 'D1', 'G2', 'M3', 'U7'].flatMap((refDes, i) => [
				`%TO.P,${refDes},${i + 1}*%`,
				`D${10 + (i % 3)}*`,
				`X${i * 300000}Y0D03*`,
				`X${i * 300000}Y250000D03*`
			]),
			'%TD*%',
			'M02*'
		].join('\n')
	);

	test('an attribute keeps the letter of its designator', () => {
		expect(drawn.issues).toEqual([]);
		expect(drawn.apertures.map((a) => a.refDes)).toEqual(['R1', 'R1', 'D1', 'D1', 'G2', 'G2', 'M3', 'M3', 'U7', 'U7']);
	});

	test.each([
		['as drawn', { kind: 'asDrawn' }],
		['reduced', { kind: 'reduce', widthPct: 10, lengthPct: 5 }],
		['rounded squares', { kind: 'roundedSquare', radiusShare: 0.2 }],
		['home plates', { kind: 'homePlate', pointShare: 0.3 }]
	] as const)('%s: it reads back to the same openings, part and pin', (_, rule) => {
		const rules = { ...STENCIL_RULES, chip: rule };
		const cut = applyRules(
			drawn.apertures.map((a) => ({ ...a, padClass: 'chip' as const })),
			rules
		);
		const again = readPasteLayer(writePasteLayer(cut, { side: 'top', name: 'test' }));
		expect(again.issues).toEqual([]);
		expect(again.apertures).toHaveLength(cut.length);
		again.apertures.forEach((a, i) => {
			expect(a.areaMm2).toBeCloseTo(cut[i]!.areaMm2, 4);
			expect(a.centre.x).toBeCloseTo(cut[i]!.centre.x, 3);
			expect([a.refDes, a.pin]).toEqual([cut[i]!.refDes, cut[i]!.pin]);
		});
	});

	test('a long pad becomes windows inside it, a rule that no stencil can follow is refused by class', () => {
		const pad = [
			{ x: 0, y: 0 },
			{ x: 5, y: 0 },
			{ x: 5, y: 4 },
			{ x: 0, y: 4 }
		];
		const windows = applyRule(pad, { kind: 'windows', coverage: 0.6, marginMm: 0.1, overMm: 3 }, null);
		expect(windows.length).toBeGreaterThan(3);
		expect(windows.flat().every((p) => p.x > 0 && p.x < 5 && p.y > 0 && p.y < 4)).toBe(true);
		expect(() => checkRule('thermal', { kind: 'windows', coverage: 2, marginMm: 0.1, overMm: 3 })).toThrow('thermal.coverage');
	});

	test('a home plate points to the middle of its part', () => {
		const square = [
			{ x: 0, y: 0 },
			{ x: 1, y: 0 },
			{ x: 1, y: 1 },
			{ x: 0, y: 1 }
		];
		const [plate] = applyRule(square, { kind: 'homePlate', pointShare: 0.4 }, { x: 10, y: 0.5 });
		const right = plate!.filter((p) => p.x > 0.99);
		expect(right).toHaveLength(1);
		expect(right[0]!.y).toBeCloseTo(0.5, 9);
	});
});
