import { boxOf, perimeter, signedArea, turn, type Ring } from './rings.ts';
import { isSimple } from './simple.ts';
import { insetPieces, type Area } from './clip.ts';

/** Beyond this an opening's necks are not looked for, mm: no paste is short in them. */
const WIDE_MM = 5;
/** How exact a width is: 0.3 µm, and 0.1 % where it is wider than 0.3 mm. */
const EXACT_MM = 0.0003;
const EXACT_SHARE = 0.001;
/** Beyond a neck's own radius, so that the neck is closed for certain. */
const BEYOND_MM = 0.0002;
const TINY = 1e-9;
/** Pairs of an inward corner and an edge up to which the direct way is the faster. */
const MOST_PAIRS = 60_000;
const MOST_EDGES = 4000;

/** Governing width of any shape: twice the smallest inward offset, corners kept sharp, at which it splits or vanishes, mm, to 0.3 µm; openings wider than 3 mm, and ones of thousands of corners, to half a per cent.
 * It splits where a corner that points inwards meets an edge across from it; it vanishes at the place that is farthest from all edges.
 * Both are found directly; an inset just before must still be one piece, or the inset is bisected.
 * It over-states an L with one thin arm; the area ratio covers that.
 * @see our convention, stated on the page; a rectangle gives its short side, a circle its diameter, a dumbbell its neck.
 * shapes.test.ts compares with insets in small steps
 */
export function governingWidth(area: Area): number {
	// An opening with an island is no opening and is said: its width, to a hundredth, is for the drawing.
	if (area.holes.length) return widthByInsets(area);
	const edges = edgesOf(area.outline);
	// No neck of so large a one is of any concern: how far in one can get is enough.
	const inside = meanWidth(area) > WIDE_MM && isSimple(area.outline) ? farthestPlace(edges, area.outline) : null;
	if (inside !== null) return 2 * inside;
	// Every inward corner is held against every edge: where that is too much, and where a ring that touches itself has no inside, insets tell.
	const inward = edges.inward.reduce((sum, is) => sum + is, 0);
	if (inward * edges.n > MOST_PAIRS || edges.n > MOST_EDGES || !isSimple(area.outline)) return widthByInsets(area);
	const splits = splitInsets(edges).find((inset) => insetPieces(area, inset + BEYOND_MM) > 1);
	const inset = splits ?? farthestPlace(edges, area.outline);
	if (inset === null) return widthByInsets(area);
	return insetPieces(area, inset - BEYOND_MM) === 1 ? 2 * inset : widthByInsets(area);
}

/** To this share of itself is the width said of a shape with islands, of one with very many corners, and of one so large that no neck of it is of concern. */
const ROUGH_SHARE = 0.01;

/** Twice the area by the edge: a slit's width, a disc's radius, mm. */
const meanWidth = ({ outline, holes }: Area) => {
	const sum = (of: (ring: Ring) => number) => holes.reduce((all, hole) => all + of(hole), 0);
	const areaMm2 = Math.abs(signedArea(outline)) - sum((hole) => Math.abs(signedArea(hole)));
	return (2 * areaMm2) / (perimeter(outline) + sum(perimeter));
};

/** By bisection of the inset: right where a shape that has split stays split. For shapes with holes, and where the direct way does not agree. */
function widthByInsets(area: Area): number {
	const box = boxOf(area.outline);
	const rough = area.holes.length > 0 || area.outline.length > MOST_EDGES || meanWidth(area) > WIDE_MM;
	const within = meanWidth(area) * (rough ? ROUGH_SHARE / 2 : EXACT_SHARE * 0.1);
	area = { outline: coarser(area.outline, within), holes: area.holes.map((hole) => coarser(hole, within)) };
	let low = 0;
	const most = Math.min(box.maxX - box.minX, box.maxY - box.minY) / 2 + 0.001;
	const whole = (inset: number) => insetPieces(area, inset) === 1 + area.holes.length;
	// Most shapes are about as wide as their area by their edge says: insets far beyond cost the most.
	let high = Math.min(most, 1.1 * meanWidth(area));
	while (high < most && whole(high)) {
		low = high;
		high = Math.min(most, 2 * high);
	}
	const share = rough ? ROUGH_SHARE : EXACT_SHARE / 4;
	while (high - low > Math.max(0.00005, low * share)) {
		const middle = (low + high) / 2;
		if (whole(middle)) low = middle;
		else high = middle;
	}
	return low + high;
}

/** A ring without the corners that lie this near to a line past them: a large opening has hundreds that its width does not need. */
function coarser(ring: Ring, withinMm: number): Ring {
	if (withinMm <= EXACT_MM) return ring;
	const kept = [ring[0]!];
	for (let from = 0, i = 2; i <= ring.length; i++) {
		const [a, b] = [ring[from]!, ring[i % ring.length]!];
		const length = Math.hypot(b.x - a.x, b.y - a.y);
		const near = ring.slice(from + 1, i).every((p) => Math.abs(turn(a, b, p)) <= withinMm * length);
		if (near && i - from < 50) continue;
		from = i - 1;
		kept.push(ring[from]!);
	}
	return kept.length < 3 ? ring : kept;
}

/** Edges of a ring, counter-clockwise, as flat arrays. */
interface Edges {
	n: number;
	x: Float64Array;
	y: Float64Array;
	/** Unit vector to the next corner; the inside lies to its left. */
	ux: Float64Array;
	uy: Float64Array;
	length: Float64Array;
	/** Whether the corner where an edge begins points inwards. */
	inward: Uint8Array;
}

function edgesOf(outline: Ring): Edges {
	const given = signedArea(outline) < 0 ? [...outline].reverse() : outline;
	const ring = given.filter((p, i) => {
		const q = given[(i + 1) % given.length]!;
		return Math.abs(p.x - q.x) + Math.abs(p.y - q.y) > TINY;
	});
	const n = ring.length;
	const e: Edges = {
		n,
		x: Float64Array.from(ring, (p) => p.x),
		y: Float64Array.from(ring, (p) => p.y),
		ux: new Float64Array(n),
		uy: new Float64Array(n),
		length: new Float64Array(n),
		inward: new Uint8Array(n)
	};
	for (let i = 0; i < n; i++) {
		const j = i + 1 === n ? 0 : i + 1;
		const dx = e.x[j]! - e.x[i]!;
		const dy = e.y[j]! - e.y[i]!;
		const length = Math.sqrt(dx * dx + dy * dy);
		e.length[i] = length;
		e.ux[i] = dx / length;
		e.uy[i] = dy / length;
	}
	for (let i = 0; i < n; i++) {
		const before = i === 0 ? n - 1 : i - 1;
		if (e.ux[before]! * e.uy[i]! - e.uy[before]! * e.ux[i]! < -TINY) e.inward[i] = 1;
	}
	return e;
}

/** How far an inset has gone when the edge reaches a point inside, corners kept sharp: the distance to the nearest edge; beyond an inward corner the larger
 * of the distances to the lines of its two edges.
 */
function reachedAt(e: Edges, px: number, py: number): number {
	let least = Infinity;
	for (let i = 0; i < e.n; i++) {
		const ax = px - e.x[i]!;
		const ay = py - e.y[i]!;
		const along = ax * e.ux[i]! + ay * e.uy[i]!;
		if (along > e.length[i]!) continue;
		let d = Math.abs(ax * e.uy[i]! - ay * e.ux[i]!);
		if (along < 0) {
			if (!e.inward[i]) continue;
			const before = i === 0 ? e.n - 1 : i - 1;
			if (ax * e.ux[before]! + ay * e.uy[before]! < 0) continue;
			d = Math.max(d, Math.abs(ax * e.uy[before]! - ay * e.ux[before]!));
		}
		if (d < least) least = d;
	}
	return least;
}

/** Whether the inset of an edge passes a point of its line: beside the edge, or beyond an inward corner as far as the edge after it leaves it. */
function passes(e: Edges, i: number, px: number, py: number, inset: number): boolean {
	const along = (px - e.x[i]!) * e.ux[i]! + (py - e.y[i]!) * e.uy[i]!;
	if (along >= 0 && along <= e.length[i]!) return true;
	const corner = along < 0 ? i : (i + 1) % e.n;
	if (!e.inward[corner]) return false;
	const other = along < 0 ? (i + e.n - 1) % e.n : corner;
	const ax = px - e.x[corner]!;
	const ay = py - e.y[corner]!;
	const alongOther = ax * e.ux[other]! + ay * e.uy[other]!;
	return (along < 0 ? alongOther >= 0 : alongOther <= 0) && Math.abs(ax * e.uy[other]! - ay * e.ux[other]!) <= inset * (1 + 1e-6) + TINY;
}

function inside(e: Edges, px: number, py: number): boolean {
	let odd = false;
	for (let i = 0; i < e.n; i++) {
		const y1 = e.y[i]!;
		const y2 = e.y[i + 1 === e.n ? 0 : i + 1]!;
		if (y1 > py !== y2 > py && px < e.x[i]! + (e.ux[i]! * (py - y1)) / e.uy[i]!) odd = !odd;
	}
	return odd;
}

/** How fast the place between two edges grows along their bisector, in the sense of the second edge (1) or against it (−1). */
function opening(e: Edges, i: number, j: number, sense: 1 | -1): number {
	// Normals to the left; the bisector is at right angles to their difference.
	const wx = e.ux[j]! - e.ux[i]!;
	const wy = e.uy[j]! - e.uy[i]!;
	const along = (wx * e.ux[j]! + wy * e.uy[j]!) * sense;
	const growth = -e.uy[j]! * wx + e.ux[j]! * wy;
	return along >= 0 ? growth : -growth;
}

/** Insets at which an inward corner meets an edge across from it, smallest first. */
function splitInsets(e: Edges): number[] {
	const insets: number[] = [];
	for (let v = 0; v < e.n; v++) {
		if (!e.inward[v]) continue;
		const before = v === 0 ? e.n - 1 : v - 1;
		// A sharp corner travels along the bisector of its edges, faster than they do: (n₁ + n₂)/(1 + n₁·n₂) for each mm of inset.
		const dot = e.ux[before]! * e.ux[v]! + e.uy[before]! * e.uy[v]!;
		const mx = -(e.uy[before]! + e.uy[v]!) / (1 + dot);
		const my = (e.ux[before]! + e.ux[v]!) / (1 + dot);
		for (let i = 0; i < e.n; i++) {
			// Across one outward corner it meets its neighbour's edge where that corner's piece ends: nothing is cut off.
			if (i === v || i === before || i === (v + 1) % e.n || i === (before + e.n - 1) % e.n) continue;
			// Where the edges come closer together on one side, that side ends there: it was cut off before, or it vanishes.
			if (opening(e, i, v, 1) < -TINY || opening(e, i, before, -1) < -TINY) continue;
			const apart = (e.x[v]! - e.x[i]!) * -e.uy[i]! + (e.y[v]! - e.y[i]!) * e.ux[i]!;
			const closing = 1 + mx * e.uy[i]! - my * e.ux[i]!;
			if (apart <= 0 || closing <= TINY) continue;
			const inset = apart / closing;
			const px = e.x[v]! + inset * mx;
			const py = e.y[v]! + inset * my;
			// They meet there only where the edge comes there at all, and nothing else has come before.
			if (passes(e, i, px, py, inset) && reachedAt(e, px, py) >= inset * (1 - 1e-6) - TINY && inside(e, px, py)) insets.push(inset);
		}
	}
	return insets.sort((a, b) => a - b);
}

/** Along a slit every place is as far in as the next: cells beyond this many are not halved. */
const MOST_CELLS = 20_000;

/** The inset at which the last place inside is reached: square cells, halved until none can hold a later one; null where there would be too many. */
function farthestPlace(e: Edges, outline: Ring): number | null {
	const box = boxOf(outline);
	let best = 0;
	let half = Math.min(box.maxX - box.minX, box.maxY - box.minY) / 2;
	if (!(((box.maxX - box.minX) * (box.maxY - box.minY)) / (4 * half * half) < MOST_CELLS)) return null;
	let cells: number[] = [];
	for (let x = box.minX + half; x < box.maxX + half; x += 2 * half)
		for (let y = box.minY + half; y < box.maxY + half; y += 2 * half) cells.push(x, y);
	// Level by level: at each the best is known before any cell is halved.
	while (cells.length) {
		if (cells.length > 2 * MOST_CELLS) return null;
		const reach = half * Math.SQRT2;
		const bounds = new Float64Array(cells.length / 2);
		for (let k = 0; k < bounds.length; k++) {
			const x = cells[2 * k]!;
			const y = cells[2 * k + 1]!;
			const d = inside(e, x, y) ? reachedAt(e, x, y) : 0;
			if (d > best) best = d;
			// A place outside is at most as far from the inside as the cell is large.
			bounds[k] = d + reach;
		}
		half /= 2;
		const next: number[] = [];
		for (let k = 0; k < bounds.length; k++) {
			if (bounds[k]! <= best + Math.max(EXACT_MM, 2 * best * EXACT_SHARE) / 2) continue;
			const x = cells[2 * k]!;
			const y = cells[2 * k + 1]!;
			next.push(x - half, y - half, x + half, y - half, x - half, y + half, x + half, y + half);
		}
		cells = next;
	}
	return best;
}
