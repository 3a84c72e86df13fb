import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { centroid, rotate, signedArea, type Ring } from '../geometry/index.ts';
import { applyRule, applyRules, checkRule, frameOf, STENCIL_RULES, type OpeningRule } from './index.ts';

const ring = (l: number, w: number, deg = 0, x = 0, y = 0): Ring =>
	[
		{ x: -l / 2, y: -w / 2 },
		{ x: l / 2, y: -w / 2 },
		{ x: l / 2, y: w / 2 },
		{ x: -l / 2, y: w / 2 }
	].map((p) => {
		const q = rotate(p, deg);
		return { x: q.x + x, y: q.y + y };
	});
const area = (r: Ring) => Math.abs(signedArea(r));
const total = (rings: readonly Ring[]) => rings.reduce((sum, r) => sum + area(r), 0);
const side = fc.double({ min: 0.3, max: 6, noNaN: true });
const angle = fc.double({ min: 0, max: 180, noNaN: true });

describe('the frame of an opening', () => {
	test('a rectangle’s own sides and middle, however it is turned', () => {
		fc.assert(
			fc.property(side, side, angle, fc.double({ min: -80, max: 80, noNaN: true }), (l, w, deg, at) => {
				const f = frameOf(ring(l, w, deg, at, -at));
				expect(f.lengthMm).toBeCloseTo(Math.max(l, w), 3);
				expect(f.widthMm).toBeCloseTo(Math.min(l, w), 3);
				expect(f.centre.x).toBeCloseTo(at, 3);
				expect(f.centre.y).toBeCloseTo(-at, 3);
			})
		);
	});
});

describe('each rule', () => {
	test('as drawn changes nothing', () => {
		const outline = ring(1, 0.5, 30);
		expect(applyRule(outline, { kind: 'asDrawn' }, null)).toEqual([outline]);
	});
	test('a reduction takes its share of width and length, and leaves the middle where it is', () => {
		fc.assert(
			fc.property(side, side, angle, fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 30 }), (l, w, deg, widthPct, lengthPct) => {
				const [cut] = applyRule(ring(l, w, deg, 5, 7), { kind: 'reduce', widthPct, lengthPct }, null);
				expect(area(cut!)).toBeCloseTo(l * w * (1 - widthPct / 100) * (1 - lengthPct / 100), 6);
				expect(centroid(cut!).x).toBeCloseTo(5, 6);
				expect(centroid(cut!).y).toBeCloseTo(7, 6);
			})
		);
	});
	test('an overprint is a reduction below nothing', () => {
		const [cut] = applyRule(ring(2, 1), { kind: 'reduce', widthPct: -10, lengthPct: -20 }, null);
		expect(area(cut!)).toBeCloseTo(2 * 1.1 * 1.2, 9);
	});
	test('a home plate loses a triangle each side of its point, and points to the part', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.05, max: 0.6, noNaN: true }), fc.boolean(), (pointShare, left) => {
				const [cut] = applyRule(ring(1, 0.6, 0, left ? -1 : 1), { kind: 'homePlate', pointShare }, { x: 0, y: 0 });
				expect(area(cut!)).toBeCloseTo(0.6 * (1 - pointShare) + (0.6 * pointShare) / 2, 6);
				const tip = cut!.reduce((a, b) => (Math.abs(b.x) < Math.abs(a.x) ? b : a));
				expect(tip.y).toBeCloseTo(0, 6);
			})
		);
	});
	test('an inverted one loses a notch there instead', () => {
		const [cut] = applyRule(ring(1, 0.6, 0, -1), { kind: 'invertedHomePlate', pointShare: 0.3 }, { x: 0, y: 0 });
		expect(area(cut!)).toBeLessThan(0.6);
		expect(Math.max(...cut!.map((p) => p.x))).toBeCloseTo(-0.5, 6);
	});
	test('without a part to point to, a home plate stays as drawn', () => {
		const outline = ring(1, 0.6);
		expect(applyRule(outline, { kind: 'homePlate', pointShare: 0.3 }, null)).toEqual([outline]);
	});
	test('a circle becomes an upright rounded square with more paste', () => {
		const circle = Array.from({ length: 64 }, (_, i) => ({
			x: 0.15 * Math.cos((i * Math.PI) / 32),
			y: 0.15 * Math.sin((i * Math.PI) / 32)
		}));
		const [cut] = applyRule(circle, { kind: 'roundedSquare', radiusShare: 0.2 }, null);
		expect(area(cut!)).toBeGreaterThan(area(circle));
		expect(area(cut!)).toBeLessThanOrEqual(0.3 * 0.3 + 1e-9);
		expect(Math.max(...cut!.map((p) => p.x))).toBeCloseTo(Math.max(...cut!.map((p) => p.y)), 3);
	});
	test('windows keep their coverage, lie inside the pad and do not touch', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 3.2, max: 9, noNaN: true }),
				fc.double({ min: 3.2, max: 9, noNaN: true }),
				fc.double({ min: 0.5, max: 0.75, noNaN: true }),
				angle,
				(l, w, coverage, deg) => {
					const panes = applyRule(ring(l, w, deg), { kind: 'windows', coverage, marginMm: 0.1, overMm: 3 }, null);
					if (panes.length === 1) return;
					expect(total(panes) / (l * w)).toBeCloseTo(coverage, 3);
					for (const pane of panes)
						for (const p of pane) {
							const q = rotate(p, -deg);
							expect(Math.abs(q.x)).toBeLessThanOrEqual(Math.max(l, w) / 2 + 1e-6);
							expect(Math.abs(q.y)).toBeLessThanOrEqual(Math.max(l, w) / 2 + 1e-6);
						}
				}
			),
			{ numRuns: 60 }
		);
	});
	test('a pad below the length of the rule stays whole', () => {
		expect(applyRule(ring(2.5, 2.5), { kind: 'windows', coverage: 0.6, marginMm: 0.1, overMm: 3 }, null)).toHaveLength(1);
	});
});

describe('a layer under the plant’s rules', () => {
	const opening = (outline: Ring, padClass: keyof typeof STENCIL_RULES, refDes: string | null) => ({
		outline,
		centre: centroid(outline),
		shape: 'rectangle',
		areaMm2: area(outline),
		perimeterMm: 3,
		widthMm: 0.5,
		lengthMm: 1,
		refDes,
		pin: null,
		padClass
	});
	test('every cut opening knows which one it came from, with its part and class', () => {
		const layer = [
			opening(ring(1, 0.5, 0, -1), 'chip', 'R1'),
			opening(ring(1, 0.5, 0, 1), 'chip', 'R1'),
			opening(ring(5, 5, 0, 20, 20), 'thermal', 'U1')
		];
		const cut = applyRules(layer, STENCIL_RULES);
		expect(cut.filter((c) => c.from === 2).length).toBeGreaterThan(1);
		expect(cut.map((c) => layer[c.from]!.refDes)).toEqual(cut.map((c) => c.refDes));
		expect(total(cut.filter((c) => c.from < 2).map((c) => c.outline))).toBeCloseTo(2 * 0.5 * 0.95 * 0.95, 6);
	});
	test('one rule that cannot be followed stops the whole layer, by its class', () => {
		const rules = { ...STENCIL_RULES, fineLead: { kind: 'reduce', widthPct: 80, lengthPct: 0 } as OpeningRule };
		expect(() => applyRules([], rules)).toThrow('fineLead.widthPct');
	});
	test.each<[OpeningRule, string]>([
		[{ kind: 'homePlate', pointShare: 0.9 }, 'pointShare'],
		[{ kind: 'roundedSquare', radiusShare: 0.7 }, 'radiusShare'],
		[{ kind: 'windows', coverage: 0.1, marginMm: 0.1, overMm: 3 }, 'coverage'],
		[{ kind: 'windows', coverage: 0.6, marginMm: 3, overMm: 3 }, 'marginMm'],
		[{ kind: 'reduce', widthPct: 5, lengthPct: 99 }, 'lengthPct']
	])('%o is refused for its %s', (rule, field) => expect(() => checkRule('chip', rule)).toThrow(`chip.${field}`));
});
