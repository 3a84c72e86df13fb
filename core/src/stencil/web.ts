import type { Verdict } from '../judgement/index.ts';
import { type Box, boxOf, distanceToBox, pointInRing, type Point, type Ring, turn, boxIndex, grown } from '../geometry/index.ts';
import { below } from '../numerics/index.ts';

export interface WebOpening {
	outline: Ring;
	centre: Point;
	/** "circle" and "rectangle" are measured by their formulas. */
	shape: string;
	widthMm: number;
	lengthMm: number;
	/** Pins whose pads it joins, where there is more than one. */
	joins?: readonly string[];
}

export interface Web {
	/** Foil that is left between the opening and its nearest neighbour, mm; null where none is within reach. */
	webMm: number | null;
	/** Which one, by index. */
	neighbour: number | null;
	/** Pins that the opening joins, as "U1.3": there the web is 0. */
	joins?: readonly string[];
}

interface Shape extends Box {
	kind: 'circle' | 'box' | 'polygon';
}

/** The web of foil beside each opening: the smallest distance to another one.
 * Circles and upright rectangles by formula, every other shape edge by edge.
 * @param reachMm webs wider than this are of no concern and come back as null
 */
export function websOf(openings: readonly WebOpening[], reachMm = 1): Web[] {
	const shapes = openings.map(shapeOf);
	const near = boxIndex(shapes);
	const best = new Float64Array(openings.length).fill(reachMm);
	const nearest = new Int32Array(openings.length).fill(-1);
	const neighbours = shapes.map((a, i) => near(grown(a, reachMm)).filter((j) => j > i && boxGap(a, shapes[j]!) < reachMm));
	const measure = (i: number, j: number, apart: number) => {
		const limit = Math.max(best[i]!, best[j]!);
		if (apart >= limit) return;
		const d = distance(openings[i]!, shapes[i]!, openings[j]!, shapes[j]!, limit);
		if (d < best[i]!) [best[i], nearest[i]] = [d, j];
		if (d < best[j]!) [best[j], nearest[j]] = [d, i];
	};
	// The likely one first: most of the others then lie farther away than it, by their boxes alone.
	neighbours.forEach((list, i) => {
		let [close, apart] = [-1, Infinity];
		for (const j of list) {
			const gap = boxGap(shapes[i]!, shapes[j]!);
			if (gap < apart) [close, apart] = [j, gap];
		}
		if (close >= 0) measure(i, close, apart);
	});
	neighbours.forEach((list, i) => {
		for (const j of list) if (nearest[i] !== j) measure(i, j, boxGap(shapes[i]!, shapes[j]!));
	});
	return openings.map(({ joins }, i) => {
		if (joins?.length) return { webMm: 0, neighbour: i, joins };
		return nearest[i]! < 0 ? { webMm: null, neighbour: null } : { webMm: best[i]!, neighbour: nearest[i]! };
	});
}

/** Distance of two openings, 0 where they overlap, mm. */
export function openingGap(a: WebOpening, b: WebOpening): number {
	const [p, q] = [shapeOf(a), shapeOf(b)];
	return distance(a, p, b, q, Infinity);
}

/** Web that is left, against the least: 0.15 mm or 1.25 foils, advised 0.20 mm (common practice). */
function judgeWeb(webMm: number, foilMm: number): 'pass' | 'marginal' | 'fail' {
	return below(webMm, leastWebMm(foilMm)) ? 'fail' : below(webMm, ADVISED_WEB_MM) ? 'marginal' : 'pass';
}

/** Whether the foil between the openings is strong enough, the thinnest web named.
 * @param webs of `websOf`
 */
export function judgeWebs(
	webs: readonly Web[],
	foilMm: number,
	nameOf: (opening: number) => string
): { results: ('pass' | 'marginal' | 'fail')[]; verdict: Verdict } {
	const results = webs.map((w) => (w.webMm === null ? 'pass' : judgeWeb(w.webMm, foilMm)));
	const thin = results.filter((r) => r === 'fail').length;
	const narrow = results.filter((r) => r === 'marginal').length;
	const worst = webs.reduce((a, w, i) => (w.webMm !== null && (a < 0 || w.webMm < webs[a]!.webMm!) ? i : a), -1);
	const joins = worst < 0 ? undefined : webs[worst]!.joins;
	const pair =
		worst < 0
			? ''
			: joins
				? `the openings of ${joins.slice(0, 4).join(', ')} overlap, 0 mm`
				: `${nameOf(worst)} and ${nameOf(webs[worst]!.neighbour!)}, ${webs[worst]!.webMm!.toFixed(3)} mm`;
	return {
		results,
		verdict: {
			level: thin ? 'act' : narrow ? 'watch' : 'good',
			statement: thin
				? `${thin} ${thin === 1 ? 'web of foil is' : 'webs of foil are'} too thin: ${pair}.`
				: narrow
					? `${narrow} ${narrow === 1 ? 'web of foil is' : 'webs of foil are'} under the advised 0.20 mm: ${pair}.`
					: 'Every web of foil is wide enough.',
			because:
				worst < 0
					? []
					: [
							{
								quantity: 'Thinnest web',
								value: webs[worst]!.webMm,
								unit: 'mm',
								limit: `at least ${leastWebMm(foilMm).toFixed(3)}`,
								source: 'common practice'
							}
						],
			doNext: thin
				? ['Reduce one of the two, or thin the foil']
				: narrow
					? ['Handle this foil with care when it is cleaned, or reduce one of the two']
					: []
		}
	};
}

/** Web that a foil should keep (common practice), mm. */
const ADVISED_WEB_MM = 0.2;
/** 0.15 mm or 1.25 foils (common practice). */
const leastWebMm = (foilMm: number) => Math.max(0.15, 1.25 * foilMm);

function shapeOf({ outline, centre, shape, widthMm, lengthMm }: WebOpening): Shape {
	if (shape === 'circle') {
		const r = widthMm / 2;
		return { minX: centre.x - r, minY: centre.y - r, maxX: centre.x + r, maxY: centre.y + r, kind: 'circle' };
	}
	const { minX, minY, maxX, maxY } = boxOf(outline);
	const upright = shape === 'rectangle' && Math.abs((maxX - minX) * (maxY - minY) - widthMm * lengthMm) < 1e-9 + 1e-6 * widthMm * lengthMm;
	return { minX, minY, maxX, maxY, kind: upright ? 'box' : 'polygon' };
}

function boxGap(a: Box, b: Box): number {
	const dx = Math.max(0, a.minX - b.maxX, b.minX - a.maxX);
	const dy = Math.max(0, a.minY - b.maxY, b.minY - a.maxY);
	return dx === 0 ? dy : dy === 0 ? dx : Math.hypot(dx, dy);
}

/** @returns their distance; some number that is no smaller where it is not below the limit */
function distance(p: WebOpening, a: Shape, q: WebOpening, b: Shape, limitMm: number): number {
	if (a.kind === 'box' && b.kind === 'box') return boxGap(a, b);
	if (a.kind === 'circle' && b.kind === 'circle')
		return Math.max(0, Math.hypot(p.centre.x - q.centre.x, p.centre.y - q.centre.y) - (p.widthMm + q.widthMm) / 2);
	if (a.kind === 'circle' && b.kind === 'box') return discToBox(p, b);
	if (a.kind === 'box' && b.kind === 'circle') return discToBox(q, a);
	if (boxGap(a, b) === 0 && ringsOverlap(p.outline, q.outline)) return 0;
	return ringDistance(p.outline, a, q.outline, b, limitMm);
}

function discToBox({ centre, widthMm }: WebOpening, box: Shape): number {
	return Math.max(0, distanceToBox(centre, box) - widthMm / 2);
}

/** Smallest distance of two rings that do not overlap: some corner of one to some edge of the other.
 * One corner that lies well gives a bound; only corners and edges that could be nearer are looked at.
 */
function ringDistance(a: Ring, aBox: Box, b: Ring, bBox: Box, limitMm: number): number {
	let [start, startGap] = [a[0]!, Infinity];
	for (const p of a) {
		const gap = distanceToBox(p, bBox);
		if (gap < startGap) [start, startGap] = [p, gap];
	}
	let bound = limitMm;
	for (let i = 0, j = b.length - 1; i < b.length; j = i++) bound = Math.min(bound, pointToEdge(start, b[j]!, b[i]!));
	bound = cornersToEdges(a, aBox, b, bBox, bound);
	return cornersToEdges(b, bBox, a, aBox, bound);
}

function cornersToEdges(corners: Ring, cornerBox: Box, ring: Ring, ringBox: Box, bound: number): number {
	const near = corners.filter((p) => distanceToBox(p, ringBox) < bound);
	let best = bound;
	for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
		const [from, to] = [ring[j]!, ring[i]!];
		if (
			Math.min(from.x, to.x) - cornerBox.maxX >= best ||
			cornerBox.minX - Math.max(from.x, to.x) >= best ||
			Math.min(from.y, to.y) - cornerBox.maxY >= best ||
			cornerBox.minY - Math.max(from.y, to.y) >= best
		)
			continue;
		for (const p of near) best = Math.min(best, pointToEdge(p, from, to));
	}
	return best;
}

function pointToEdge(p: Point, from: Point, to: Point): number {
	const [ex, ey] = [to.x - from.x, to.y - from.y];
	const [px, py] = [p.x - from.x, p.y - from.y];
	const length2 = ex * ex + ey * ey;
	const t = length2 === 0 ? 0 : Math.min(1, Math.max(0, (px * ex + py * ey) / length2));
	const [dx, dy] = [px - t * ex, py - t * ey];
	return Math.sqrt(dx * dx + dy * dy);
}

/** Edges that cross, or one ring inside the other. */
function ringsOverlap(a: Ring, b: Ring): boolean {
	if (pointInRing(a[0]!, b) || pointInRing(b[0]!, a)) return true;
	for (let i = 0, j = a.length - 1; i < a.length; j = i++)
		for (let k = 0, l = b.length - 1; k < b.length; l = k++)
			if (turn(a[j]!, a[i]!, b[l]!) * turn(a[j]!, a[i]!, b[k]!) < 0 && turn(b[l]!, b[k]!, a[j]!) * turn(b[l]!, b[k]!, a[i]!) < 0)
				return true;
	return false;
}
