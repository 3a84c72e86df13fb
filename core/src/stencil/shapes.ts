import { InputError, requireRange } from '../judgement/index.ts';
import { governingWidth } from '../geometry/index.ts';
import { perimeter, signedArea, type Point, type Ring } from '../geometry/index.ts';
import type { Opening } from './ratios.ts';

/** An opening by its kind and dimensions, mm. */
export type OpeningShape =
	| { kind: 'rectangle' | 'oblong'; lengthMm: number; widthMm: number }
	| { kind: 'circle' | 'square'; sizeMm: number }
	| { kind: 'roundedRectangle'; lengthMm: number; widthMm: number; radiusMm: number }
	| { kind: 'homePlate'; lengthMm: number; widthMm: number; pointMm: number }
	| { kind: 'polygon'; outline: Point[]; holes?: Point[][] };

const size = (name: string, field: string, value: number) => requireRange(`${name}.${field}`, value, 0.05, 20, 'mm');

/** Area, perimeter, governing width and length of an opening.
 * Rectangle LW; oblong with full-radius ends W(L−W)+πW²/4 and 2(L−W)+πW (L and W swapped where needed);
 * rounded rectangle LW−(4−π)r² and 2(L+W)−(8−2π)r; home plate W(L−p)+Wp/2; polygon by the shoelace formula.
 * @param name of the aperture, for errors
 * @throws {InputError} naming the aperture: a dimension outside 0.05 to 20 mm, a radius over half the width, a polygon that crosses itself, has no area,
 * or has a hole (the island falls out of the foil: divide it into windows)
 */
export function measureShape(shape: OpeningShape, name = 'aperture'): Opening {
	switch (shape.kind) {
		case 'square':
		case 'circle': {
			const d = shape.sizeMm;
			size(name, 'sizeMm', d);
			return shape.kind === 'square'
				? { areaMm2: d * d, perimeterMm: 4 * d, widthMm: d, lengthMm: d }
				: { areaMm2: (Math.PI * d * d) / 4, perimeterMm: Math.PI * d, widthMm: d, lengthMm: d };
		}
		case 'rectangle':
		case 'oblong':
		case 'roundedRectangle': {
			size(name, 'lengthMm', shape.lengthMm);
			size(name, 'widthMm', shape.widthMm);
			const l = Math.max(shape.lengthMm, shape.widthMm);
			const w = Math.min(shape.lengthMm, shape.widthMm);
			const r = shape.kind === 'oblong' ? w / 2 : shape.kind === 'roundedRectangle' ? shape.radiusMm : 0;
			requireRange(`${name}.radiusMm`, r, 0, w / 2, 'mm');
			return {
				areaMm2: l * w - (4 - Math.PI) * r * r,
				perimeterMm: 2 * (l + w) - (8 - 2 * Math.PI) * r,
				widthMm: w,
				lengthMm: l
			};
		}
		case 'homePlate': {
			const { lengthMm: l, widthMm: w, pointMm: p } = shape;
			size(name, 'lengthMm', l);
			size(name, 'widthMm', w);
			requireRange(`${name}.pointMm`, p, 0, l, 'mm');
			const outline = homePlate(l, w, p);
			return {
				areaMm2: w * (l - p) + (w * p) / 2,
				perimeterMm: 2 * (l - p) + w + 2 * Math.hypot(p, w / 2),
				widthMm: governingWidth({ outline, holes: [] }),
				lengthMm: Math.max(l, w)
			};
		}
		case 'polygon': {
			if (shape.holes?.length)
				throw new InputError(
					'mismatch',
					`${name}.holes`,
					'no hole: the island falls out of the foil; divide it into windows',
					shape.holes.length
				);
			const outline = cleanRing(shape.outline, name);
			const xs = outline.map((p) => p.x);
			const ys = outline.map((p) => p.y);
			return {
				areaMm2: Math.abs(signedArea(outline)),
				perimeterMm: perimeter(outline),
				widthMm: governingWidth({ outline, holes: [] }),
				lengthMm: Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys))
			};
		}
	}
}

/** Home plate with its point to the right, from the origin. */
export function homePlate(l: number, w: number, p: number): Ring {
	return [
		{ x: 0, y: 0 },
		{ x: l - p, y: 0 },
		{ x: l, y: w / 2 },
		{ x: l - p, y: w },
		{ x: 0, y: w }
	];
}

/** A ring without duplicate, closing and collinear vertices.
 * @throws {InputError} naming the aperture, where fewer than three are left, a coordinate is no number, the area is zero, or two edges cross
 */
export function cleanRing(outline: readonly Point[], name: string): Ring {
	outline.forEach((p, i) => {
		if (!Number.isFinite(p.x) || !Number.isFinite(p.y)) throw new InputError('not-finite', `${name}.outline[${i}]`, 'two numbers', p);
	});
	let ring: Point[] = outline.filter((p, i) => {
		const before = outline[(i + outline.length - 1) % outline.length]!;
		return outline.length === 1 || Math.hypot(p.x - before.x, p.y - before.y) > 1e-9;
	});
	ring = ring.filter((p, i) => {
		const a = ring[(i + ring.length - 1) % ring.length]!;
		const b = ring[(i + 1) % ring.length]!;
		return Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) > 1e-12;
	});
	if (ring.length < 3) throw new InputError('empty', `${name}.outline`, 'at least three corners that do not lie on a line', ring.length);
	if (Math.abs(signedArea(ring)) < 1e-9) throw new InputError('out-of-range', `${name}.outline`, 'an area above zero', 0);
	for (let i = 0; i < ring.length; i++)
		for (let j = i + 2; j < ring.length; j++) {
			if (i === 0 && j === ring.length - 1) continue;
			if (cross(ring[i]!, ring[i + 1]!, ring[j]!, ring[(j + 1) % ring.length]!))
				throw new InputError('mismatch', `${name}.outline`, 'an outline that does not cross itself', `edges ${i} and ${j}`);
		}
	return ring;
}

function cross(a: Point, b: Point, c: Point, d: Point): boolean {
	const side = (p: Point, q: Point, r: Point) => (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
	const [s1, s2, s3, s4] = [side(a, b, c), side(a, b, d), side(c, d, a), side(c, d, b)];
	return s1 * s2 < 0 && s3 * s4 < 0;
}
