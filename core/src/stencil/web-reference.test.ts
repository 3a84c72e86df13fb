import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { boxOf, rotate, type Point, type Ring } from '../geometry/index.ts';
import { openingGap, websOf, type WebOpening } from './index.ts';

// Webs against a second way: every edge of every opening against every edge of every other, with none of the shortcuts.

/** Distance of two segments by their four ends and by where their lines cross. */
function segmentGap(a: Point, b: Point, c: Point, d: Point): number {
	const side = (p: Point, q: Point, r: Point) => Math.sign((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x));
	if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return 0;
	const toSegment = (p: Point, q: Point, r: Point) => {
		const [ux, uy] = [r.x - q.x, r.y - q.y];
		const share = Math.max(0, Math.min(1, ((p.x - q.x) * ux + (p.y - q.y) * uy) / (ux * ux + uy * uy)));
		return Math.hypot(p.x - q.x - share * ux, p.y - q.y - share * uy);
	};
	return Math.min(toSegment(a, c, d), toSegment(b, c, d), toSegment(c, a, b), toSegment(d, a, b));
}

/** Whether a point lies inside, by the turns of the ring around it. */
function surrounds(ring: Ring, p: Point): boolean {
	let turned = 0;
	ring.forEach((a, i) => {
		const b = ring[(i + 1) % ring.length]!;
		const step = Math.atan2(b.y - p.y, b.x - p.x) - Math.atan2(a.y - p.y, a.x - p.x);
		turned += step > Math.PI ? step - 2 * Math.PI : step < -Math.PI ? step + 2 * Math.PI : step;
	});
	return Math.abs(turned) > Math.PI;
}

function ringGap(p: Ring, q: Ring): number {
	if (surrounds(p, q[0]!) || surrounds(q, p[0]!)) return 0;
	let least = Infinity;
	p.forEach((a, i) => q.forEach((c, k) => (least = Math.min(least, segmentGap(a, p[(i + 1) % p.length]!, c, q[(k + 1) % q.length]!)))));
	return least;
}

const star = (radii: readonly number[], at: Point, deg: number): WebOpening => {
	const outline = radii.map((r, i) => {
		const q = rotate({ x: r, y: 0 }, deg + (360 * i) / radii.length);
		return { x: at.x + q.x, y: at.y + q.y };
	});
	const box = boxOf(outline);
	return { outline, centre: at, shape: 'polygon', widthMm: box.maxY - box.minY, lengthMm: box.maxX - box.minX };
};

const radius = fc.double({ min: 0.1, max: 0.6, noNaN: true });
const opening = fc.record({
	radii: fc.array(radius, { minLength: 3, maxLength: 14 }),
	x: fc.double({ min: 0, max: 4, noNaN: true }),
	y: fc.double({ min: 0, max: 4, noNaN: true }),
	deg: fc.double({ min: 0, max: 360, noNaN: true })
});
const drawn = ({ radii, x, y, deg }: { radii: number[]; x: number; y: number; deg: number }) => star(radii, { x, y }, deg);

describe('webs against every edge with every edge', () => {
	test('two drawn openings, however they lie', () => {
		fc.assert(
			fc.property(opening, opening, (a, b) => {
				const [p, q] = [drawn(a), drawn(b)];
				const [found, reference] = [openingGap(p, q), ringGap(p.outline, q.outline)];
				expect(found).toBeCloseTo(reference, 6);
			}),
			{ numRuns: 150, seed: 11 }
		);
	});

	test('the same whichever of the two is named first', () => {
		fc.assert(
			fc.property(opening, opening, (a, b) => {
				expect(openingGap(drawn(a), drawn(b))).toBeCloseTo(openingGap(drawn(b), drawn(a)), 9);
			}),
			{ numRuns: 80, seed: 12 }
		);
	});

	test('a field of openings: the nearest of each, and its web, are those of the long way', () => {
		const reachMm = 0.8;
		fc.assert(
			fc.property(fc.array(opening, { minLength: 2, maxLength: 12 }), (list) => {
				const openings = list.map(drawn);
				const webs = websOf(openings, reachMm);
				openings.forEach((o, i) => {
					const all = openings.map((other, j) => (i === j ? Infinity : ringGap(o.outline, other.outline)));
					const least = Math.min(...all);
					const { webMm, neighbour } = webs[i]!;
					if (least >= reachMm + 1e-6) return expect(webMm).toBeNull();
					if (Math.abs(least - reachMm) < 1e-6) return;
					expect(Math.abs(webMm! - least)).toBeLessThan(1e-6);
					// Several may be as near.
					expect(Math.abs(all[neighbour!]! - least)).toBeLessThan(1e-6);
				});
			}),
			{ numRuns: 40, seed: 13 }
		);
	});

	test('moved and turned together, webs stay', () => {
		fc.assert(
			fc.property(fc.array(opening, { minLength: 2, maxLength: 6 }), fc.double({ min: 0, max: 360, noNaN: true }), (list, deg) => {
				const openings = list.map(drawn);
				const moved = openings.map((o) => ({
					...o,
					outline: o.outline.map((p) => {
						const q = rotate(p, deg);
						return { x: q.x - 30, y: q.y + 17 };
					}),
					centre: o.centre
				}));
				const [before, after] = [websOf(openings, 1), websOf(moved, 1)];
				before.forEach((web, i) => {
					if (web.webMm === null || after[i]!.webMm === null)
						return expect(Math.max(web.webMm ?? 1, after[i]!.webMm ?? 1)).toBeGreaterThan(0.999);
					expect(after[i]!.webMm).toBeCloseTo(web.webMm, 6);
				});
			}),
			{ numRuns: 40, seed: 14 }
		);
	});
});
