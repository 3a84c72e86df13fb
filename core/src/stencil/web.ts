import type { Point, Ring } from '../numerics/index.ts';

export interface WebOpening {
	outline: Ring;
	centre: Point;
	/** "circle" and "rectangle" are measured by their formulas. */
	shape: string;
	widthMm: number;
	lengthMm: number;
}

export interface Web {
	/** Foil that is left between the opening and its nearest neighbour, mm; null where none is within reach. */
	webMm: number | null;
	/** Which one, by index. */
	neighbour: number | null;
}

interface Shape {
	minX: number;
	minY: number;
	maxX: number;
	maxY: number;
	kind: 'circle' | 'box' | 'polygon';
}

/** The web of foil beside each opening: the smallest distance to another one.
 * Circles and upright rectangles by formula, every other shape edge by edge; a grid keeps it to neighbours.
 * @param reachMm webs wider than this are of no concern and come back as null
 */
export function websOf(openings: readonly WebOpening[], reachMm = 1): Web[] {
	const shapes = openings.map(shapeOf);
	const cellMm = 1 + reachMm;
	const cells = new Map<number, number[]>();
	const key = (x: number, y: number) => x * 100_003 + y;
	shapes.forEach((s, i) => {
		for (let x = Math.floor(s.minX / cellMm); x <= Math.floor(s.maxX / cellMm); x++)
			for (let y = Math.floor(s.minY / cellMm); y <= Math.floor(s.maxY / cellMm); y++) {
				const cell = cells.get(key(x, y));
				if (cell) cell.push(i);
				else cells.set(key(x, y), [i]);
			}
	});
	const best = new Float64Array(openings.length).fill(reachMm);
	const nearest = new Int32Array(openings.length).fill(-1);
	shapes.forEach((a, i) => {
		for (let x = Math.floor((a.minX - reachMm) / cellMm); x <= Math.floor((a.maxX + reachMm) / cellMm); x++)
			for (let y = Math.floor((a.minY - reachMm) / cellMm); y <= Math.floor((a.maxY + reachMm) / cellMm); y++)
				for (const j of cells.get(key(x, y)) ?? []) {
					// Each pair once, and only where it could be the nearest of one of the two.
					if (j <= i) continue;
					const apart = boxGap(a, shapes[j]!);
					if (apart >= best[i]! && apart >= best[j]!) continue;
					const d = distance(openings[i]!, a, openings[j]!, shapes[j]!, apart);
					if (d < best[i]!) [best[i], nearest[i]] = [d, j];
					if (d < best[j]!) [best[j], nearest[j]] = [d, i];
				}
	});
	return openings.map((_, i) => (nearest[i]! < 0 ? { webMm: null, neighbour: null } : { webMm: best[i]!, neighbour: nearest[i]! }));
}

/** Distance of two openings, 0 where they overlap, mm. */
export function openingGap(a: WebOpening, b: WebOpening): number {
	const [p, q] = [shapeOf(a), shapeOf(b)];
	return distance(a, p, b, q, boxGap(p, q));
}

/** Web that is left, against the least: 0.15 mm or 1.25 foils, advised 0.20 mm (common practice). */
export function judgeWeb(webMm: number, foilMm: number): 'pass' | 'marginal' | 'fail' {
	return webMm < Math.max(0.15, 1.25 * foilMm) - 1e-9 ? 'fail' : webMm < 0.2 - 1e-9 ? 'marginal' : 'pass';
}

function shapeOf({ outline, centre, shape, widthMm, lengthMm }: WebOpening): Shape {
	if (shape === 'circle') {
		const r = widthMm / 2;
		return { minX: centre.x - r, minY: centre.y - r, maxX: centre.x + r, maxY: centre.y + r, kind: 'circle' };
	}
	let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const p of outline) {
		if (p.x < minX) minX = p.x;
		if (p.x > maxX) maxX = p.x;
		if (p.y < minY) minY = p.y;
		if (p.y > maxY) maxY = p.y;
	}
	const upright = shape === 'rectangle' && Math.abs((maxX - minX) * (maxY - minY) - widthMm * lengthMm) < 1e-9 + 1e-6 * widthMm * lengthMm;
	return { minX, minY, maxX, maxY, kind: upright ? 'box' : 'polygon' };
}

function boxGap(a: Shape, b: Shape): number {
	const dx = Math.max(0, a.minX - b.maxX, b.minX - a.maxX);
	const dy = Math.max(0, a.minY - b.maxY, b.minY - a.maxY);
	return dx === 0 ? dy : dy === 0 ? dx : Math.hypot(dx, dy);
}

function distance(p: WebOpening, a: Shape, q: WebOpening, b: Shape, boxes: number): number {
	if (a.kind === 'box' && b.kind === 'box') return boxes;
	if (a.kind === 'circle' && b.kind === 'circle')
		return Math.max(0, Math.hypot(p.centre.x - q.centre.x, p.centre.y - q.centre.y) - (p.widthMm + q.widthMm) / 2);
	if (a.kind === 'circle' && b.kind === 'box') return discToBox(p, b);
	if (a.kind === 'box' && b.kind === 'circle') return discToBox(q, a);
	return ringDistance(p.outline, q.outline);
}

function discToBox({ centre, widthMm }: WebOpening, box: Shape): number {
	const dx = Math.max(box.minX - centre.x, 0, centre.x - box.maxX);
	const dy = Math.max(box.minY - centre.y, 0, centre.y - box.maxY);
	return Math.max(0, Math.hypot(dx, dy) - widthMm / 2);
}

/** Smallest distance of two rings that do not overlap: some corner of one to some edge of the other. */
function ringDistance(a: Ring, b: Ring): number {
	return Math.sqrt(Math.min(cornersToEdges(a, b), cornersToEdges(b, a)));
}

function cornersToEdges(corners: Ring, ring: Ring): number {
	let best = Infinity;
	for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
		const { x: ax, y: ay } = ring[j]!;
		const [ex, ey] = [ring[i]!.x - ax, ring[i]!.y - ay];
		const length2 = ex * ex + ey * ey;
		for (const p of corners) {
			const [px, py] = [p.x - ax, p.y - ay];
			const t = length2 === 0 ? 0 : Math.min(1, Math.max(0, (px * ex + py * ey) / length2));
			const [dx, dy] = [px - t * ex, py - t * ey];
			const d = dx * dx + dy * dy;
			if (d < best) best = d;
		}
	}
	return best;
}
