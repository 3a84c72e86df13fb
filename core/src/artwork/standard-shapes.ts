import { boxOf, type Point, type Ring, perimeter, rotate, signedArea } from '../geometry/index.ts';

/** Arcs become chords that leave the arc by at most this much, mm; arcs of more than 100 mm by a hundred thousandth of their radius. */
const SAGITTA_MM = 0.001;
const SAGITTA_SHARE = 1e-5;

/** How many chords a turn of `sweepDeg` at a radius needs. */
function chords(radiusMm: number, sweepDeg: number): number {
	const perChord = 2 * Math.acos(Math.max(0, 1 - Math.max(SAGITTA_MM / Math.max(radiusMm, SAGITTA_MM), SAGITTA_SHARE)));
	return Math.max(1, Math.ceil((Math.abs(sweepDeg) * Math.PI) / 180 / perChord));
}

/** Points along an arc, both ends included. */
export function arcPoints(centre: Point, radiusMm: number, fromDeg: number, sweepDeg: number): Point[] {
	const n = chords(radiusMm, sweepDeg);
	return Array.from({ length: n + 1 }, (_, i) => {
		const a = ((fromDeg + (sweepDeg * i) / n) * Math.PI) / 180;
		return { x: centre.x + radiusMm * Math.cos(a), y: centre.y + radiusMm * Math.sin(a) };
	});
}

export function circleRing(centre: Point, diameterMm: number): Ring {
	return arcPoints(centre, diameterMm / 2, 0, 360).slice(0, -1);
}

export function rectangleRing(centre: Point, xSizeMm: number, ySizeMm: number): Ring {
	const [x, y] = [xSizeMm / 2, ySizeMm / 2];
	return [
		{ x: centre.x - x, y: centre.y - y },
		{ x: centre.x + x, y: centre.y - y },
		{ x: centre.x + x, y: centre.y + y },
		{ x: centre.x - x, y: centre.y + y }
	];
}

/** The area swept by a round tool along a straight line. */
export function capsuleRing(from: Point, to: Point, diameterMm: number): Ring {
	const along = (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
	return [...arcPoints(to, diameterMm / 2, along - 90, 180), ...arcPoints(from, diameterMm / 2, along + 90, 180)];
}

/** Full-radius ends on the shorter side. */
export function obroundRing(centre: Point, xSizeMm: number, ySizeMm: number): Ring {
	const reach = Math.abs(xSizeMm - ySizeMm) / 2;
	const along = xSizeMm >= ySizeMm ? { x: reach, y: 0 } : { x: 0, y: reach };
	return capsuleRing(
		{ x: centre.x - along.x, y: centre.y - along.y },
		{ x: centre.x + along.x, y: centre.y + along.y },
		Math.min(xSizeMm, ySizeMm)
	);
}

export function regularPolygonRing(centre: Point, diameterMm: number, vertices: number, rotationDeg: number): Ring {
	return Array.from({ length: vertices }, (_, i) => {
		const p = rotate({ x: diameterMm / 2, y: 0 }, rotationDeg + (360 * i) / vertices);
		return { x: centre.x + p.x, y: centre.y + p.y };
	});
}

/** Size of an opening: exact where the shape has a formula. */
export interface Measures {
	areaMm2: number;
	perimeterMm: number;
	/** Governing (smallest) width; null where it has to be found by insetting. */
	widthMm: number | null;
	lengthMm: number;
}

export type Outline = { shape: 'circle'; diameterMm: number } | { shape: 'rectangle' | 'obround'; xSizeMm: number; ySizeMm: number };

/** Area and perimeter of a standard opening.
 * Rectangle LW and 2(L+W); circle πD²/4 and πD; oblong with full-radius ends W(L−W)+πW²/4 and 2(L−W)+πW.
 * @see plane geometry; ratios compared with the IPC-7525 example table in checks/stencil.test.ts
 */
export function measure(outline: Outline): Measures {
	if (outline.shape === 'circle') {
		const d = outline.diameterMm;
		return { areaMm2: (Math.PI * d * d) / 4, perimeterMm: Math.PI * d, widthMm: d, lengthMm: d };
	}
	const l = Math.max(outline.xSizeMm, outline.ySizeMm);
	const w = Math.min(outline.xSizeMm, outline.ySizeMm);
	if (outline.shape === 'rectangle') return { areaMm2: l * w, perimeterMm: 2 * (l + w), widthMm: w, lengthMm: l };
	return {
		areaMm2: w * (l - w) + (Math.PI * w * w) / 4,
		perimeterMm: 2 * (l - w) + Math.PI * w,
		widthMm: w,
		lengthMm: l
	};
}

/** Measures of a drawn polygon; its governing width is left open. */
export function measureRing(outline: Ring, holes: readonly Ring[] = []): Measures {
	const { minX, minY, maxX, maxY } = boxOf(outline);
	return {
		areaMm2: Math.abs(signedArea(outline)) - holes.reduce((sum, hole) => sum + Math.abs(signedArea(hole)), 0),
		perimeterMm: perimeter(outline) + holes.reduce((sum, hole) => sum + perimeter(hole), 0),
		widthMm: null,
		lengthMm: Math.max(maxX - minX, maxY - minY)
	};
}
