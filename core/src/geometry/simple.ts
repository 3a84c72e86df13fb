import { boxIndex } from './near.ts';
import { type Point, type Ring } from './rings.ts';

/** Up to this many corners every pair of edges is looked at. */
const FEW = 24;

/** Whether a ring neither crosses nor touches itself: no corner comes twice, no two edges meet but neighbours at their corner. */
export function isSimple(ring: Ring): boolean {
	const n = ring.length;
	if (n < 3) return false;
	if (isConvex(ring)) return true;
	if (n <= FEW) {
		for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) if (meet(ring, i, j)) return false;
		return true;
	}
	const boxes = ring.map((a, i) => {
		const b = ring[(i + 1) % n]!;
		return { minX: Math.min(a.x, b.x), minY: Math.min(a.y, b.y), maxX: Math.max(a.x, b.x), maxY: Math.max(a.y, b.y) };
	});
	const touching = boxIndex(boxes);
	for (let i = 0; i < n; i++) for (const j of touching(boxes[i]!)) if (j > i && meet(ring, i, j)) return false;
	return true;
}

const side = (a: Point, b: Point, p: Point) => (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);

/** Turns one way at every corner, and once round in all. */
function isConvex(ring: Ring): boolean {
	const n = ring.length;
	let [sense, turned] = [0, 0];
	for (let i = 0; i < n; i++) {
		const [a, b, c] = [ring[i]!, ring[(i + 1) % n]!, ring[(i + 2) % n]!];
		const cross = side(a, b, c);
		const dot = (b.x - a.x) * (c.x - b.x) + (b.y - a.y) * (c.y - b.y);
		if (cross === 0 && dot <= 0) return false;
		if (cross !== 0) {
			if (sense * cross < 0) return false;
			sense = Math.sign(cross);
		}
		turned += Math.atan2(cross, dot);
	}
	return Math.abs(turned) < 3 * Math.PI;
}

function meet(ring: Ring, i: number, j: number): boolean {
	const n = ring.length;
	const [a, b, c, d] = [ring[i]!, ring[(i + 1) % n]!, ring[j]!, ring[(j + 1) % n]!];
	// Neighbours share a corner: they meet elsewhere only where one runs back along the other.
	if (j === i + 1 || (i === 0 && j === n - 1)) {
		const [from, corner, to] = j === i + 1 ? [a, b, d] : [c, a, b];
		return side(from, corner, to) === 0 && (corner.x - from.x) * (to.x - corner.x) + (corner.y - from.y) * (to.y - corner.y) < 0;
	}
	const [s1, s2, s3, s4] = [side(a, b, c), side(a, b, d), side(c, d, a), side(c, d, b)];
	if (((s1 > 0 && s2 < 0) || (s1 < 0 && s2 > 0)) && ((s3 > 0 && s4 < 0) || (s3 < 0 && s4 > 0))) return true;
	return (
		(s1 === 0 && between(a, b, c)) || (s2 === 0 && between(a, b, d)) || (s3 === 0 && between(c, d, a)) || (s4 === 0 && between(c, d, b))
	);
}

const between = (a: Point, b: Point, p: Point) =>
	p.x >= Math.min(a.x, b.x) && p.x <= Math.max(a.x, b.x) && p.y >= Math.min(a.y, b.y) && p.y <= Math.max(a.y, b.y);
