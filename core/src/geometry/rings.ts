/** A point or vector, mm. Angles are degrees, counter-clockwise positive. */
export interface Point {
	x: number;
	y: number;
}

/** A polygon without its closing vertex, mm. */
export type Ring = readonly Point[];

export interface Box {
	minX: number;
	minY: number;
	maxX: number;
	maxY: number;
}

/** The box around points; an inside-out box where there are none. */
export function boxOf(points: Iterable<Point>): Box {
	const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
	for (const { x, y } of points) {
		if (x < box.minX) box.minX = x;
		if (y < box.minY) box.minY = y;
		if (x > box.maxX) box.maxX = x;
		if (y > box.maxY) box.maxY = y;
	}
	return box;
}

export function boxesTouch(a: Box, b: Box, margin = 0): boolean {
	return a.minX <= b.maxX + margin && b.minX <= a.maxX + margin && a.minY <= b.maxY + margin && b.minY <= a.maxY + margin;
}

/** Signed area by the shoelace formula on coordinates shifted to the first vertex, mm²; counter-clockwise positive. */
export function signedArea(ring: Ring): number {
	const origin = ring[0];
	if (!origin) return 0;
	let twice = 0;
	for (let i = 0; i < ring.length; i++) {
		const a = ring[i]!;
		const b = ring[(i + 1) % ring.length]!;
		twice += (a.x - origin.x) * (b.y - origin.y) - (b.x - origin.x) * (a.y - origin.y);
	}
	return twice / 2;
}

/** Perimeter, mm. */
export function perimeter(ring: Ring): number {
	let sum = 0;
	for (let i = 0; i < ring.length; i++) {
		const a = ring[i]!;
		const b = ring[(i + 1) % ring.length]!;
		const [dx, dy] = [b.x - a.x, b.y - a.y];
		sum += Math.sqrt(dx * dx + dy * dy);
	}
	return sum;
}

/** Centre of gravity of a ring, mm. */
export function centroid(ring: Ring): Point {
	const area = signedArea(ring);
	const origin = ring[0]!;
	if (area === 0) return origin;
	let cx = 0;
	let cy = 0;
	for (let i = 0; i < ring.length; i++) {
		const ax = ring[i]!.x - origin.x;
		const ay = ring[i]!.y - origin.y;
		const bx = ring[(i + 1) % ring.length]!.x - origin.x;
		const by = ring[(i + 1) % ring.length]!.y - origin.y;
		const cross = ax * by - bx * ay;
		cx += (ax + bx) * cross;
		cy += (ay + by) * cross;
	}
	return { x: origin.x + cx / (6 * area), y: origin.y + cy / (6 * area) };
}

/** Turns a point about the origin; exact at multiples of 90°. */
export function rotate(p: Point, degrees: number): Point {
	const turn = ((degrees % 360) + 360) % 360;
	if (turn === 0) return { x: p.x, y: p.y };
	if (turn === 90) return { x: -p.y, y: p.x };
	if (turn === 180) return { x: -p.x, y: -p.y };
	if (turn === 270) return { x: p.y, y: -p.x };
	const c = Math.cos((turn * Math.PI) / 180);
	const s = Math.sin((turn * Math.PI) / 180);
	return { x: p.x * c - p.y * s, y: p.x * s + p.y * c };
}

/** Shortest distance from a point to a box, 0 inside, mm. */
export function distanceToBox(p: Point, box: Box): number {
	const dx = Math.max(box.minX - p.x, 0, p.x - box.maxX);
	const dy = Math.max(box.minY - p.y, 0, p.y - box.maxY);
	return dx === 0 ? dy : dy === 0 ? dx : Math.sqrt(dx * dx + dy * dy);
}

/** Twice the signed area of a triangle, mm²: positive where the way from a over b to c turns left. */
export function turn(a: Point, b: Point, c: Point): number {
	return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}

/** Whether a point lies inside a ring, by the crossings of a ray; on the edge it may be either. */
export function pointInRing(p: Point, ring: Ring): boolean {
	let odd = false;
	for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
		const [a, b] = [ring[j]!, ring[i]!];
		if (a.y > p.y !== b.y > p.y && p.x < a.x + ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y)) odd = !odd;
	}
	return odd;
}

/** Box around a body of that length and width, turned about its centre, mm. */
export function bodyBox(centre: Point, lengthMm: number, widthMm: number, rotationDeg: number): Box {
	const t = (rotationDeg * Math.PI) / 180;
	const halfX = (Math.abs(lengthMm * Math.cos(t)) + Math.abs(widthMm * Math.sin(t))) / 2;
	const halfY = (Math.abs(lengthMm * Math.sin(t)) + Math.abs(widthMm * Math.cos(t))) / 2;
	return { minX: centre.x - halfX, minY: centre.y - halfY, maxX: centre.x + halfX, maxY: centre.y + halfY };
}

/** Smallest convex ring around points, counter-clockwise. */
export function convexHull(points: readonly Point[]): Ring {
	const sorted = [...points].sort((p, q) => p.x - q.x || p.y - q.y);
	const half = (list: readonly Point[]) => {
		const hull: Point[] = [];
		for (const p of list) {
			while (hull.length >= 2 && turn(hull.at(-2)!, hull.at(-1)!, p) <= 0) hull.pop();
			hull.push(p);
		}
		return hull.slice(0, -1);
	};
	return [...half(sorted), ...half(sorted.reverse())];
}

/** Whether a ring turns one way only, by any winding. */
export function isConvex(ring: Ring): boolean {
	let way = 0;
	for (const [i, b] of ring.entries()) {
		const t = turn(ring.at(i - 1)!, b, ring[(i + 1) % ring.length]!);
		if (Math.abs(t) < 1e-12) continue;
		if (way !== 0 && Math.sign(t) !== way) return false;
		way = Math.sign(t);
	}
	return true;
}
