import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import {
	bodyBox,
	boxesTouch,
	boxIndex,
	boxOf,
	centroid,
	distanceToBox,
	grown,
	perimeter,
	pointIndex,
	rotate,
	signedArea
} from './index.ts';

const coordinate = fc.double({ min: -400, max: 400, noNaN: true });
const point = fc.record({ x: coordinate, y: coordinate });

describe('geometry', () => {
	const square = [
		{ x: 0, y: 0 },
		{ x: 2, y: 0 },
		{ x: 2, y: 2 },
		{ x: 0, y: 2 }
	];

	test('a square: area by winding, perimeter, centre', () => {
		expect(signedArea(square)).toBe(4);
		expect(signedArea([...square].reverse())).toBe(-4);
		expect(perimeter(square)).toBe(8);
		expect(centroid(square)).toEqual({ x: 1, y: 1 });
	});

	test('an L: the centre is that of its two rectangles', () => {
		const l = [
			{ x: 0, y: 0 },
			{ x: 3, y: 0 },
			{ x: 3, y: 1 },
			{ x: 1, y: 1 },
			{ x: 1, y: 3 },
			{ x: 0, y: 3 }
		];
		// 3 x 1 at (1.5, 0.5) and 1 x 2 at (0.5, 2).
		expect(centroid(l).x).toBeCloseTo((3 * 1.5 + 2 * 0.5) / 5, 12);
		expect(centroid(l).y).toBeCloseTo((3 * 0.5 + 2 * 2) / 5, 12);
	});

	test('area stays the same far from the origin', () => {
		fc.assert(
			fc.property(fc.double({ min: -1e4, max: 1e4, noNaN: true }), fc.double({ min: -1e4, max: 1e4, noNaN: true }), (dx, dy) => {
				const moved = square.map((p) => ({ x: p.x + dx, y: p.y + dy }));
				expect(signedArea(moved)).toBeCloseTo(4, 6);
			})
		);
	});

	test('turning keeps lengths, and four quarter turns are exact', () => {
		fc.assert(
			fc.property(point, fc.double({ min: -720, max: 720, noNaN: true }), (p, degrees) => {
				const q = rotate(p, degrees);
				expect(Math.hypot(q.x, q.y)).toBeCloseTo(Math.hypot(p.x, p.y), 8);
			})
		);
		fc.assert(
			fc.property(point, (p) => {
				let q = p;
				for (let i = 0; i < 4; i++) q = rotate(q, 90);
				expect(q.x === p.x && q.y === p.y).toBe(true);
			})
		);
	});

	test('turning is counter-clockwise, also by negative angles and more than a turn', () => {
		expect(rotate({ x: 1, y: 0 }, 90)).toEqual({ x: -0, y: 1 });
		expect(rotate({ x: 1, y: 0 }, -90)).toEqual({ x: 0, y: -1 });
		expect(rotate({ x: 1, y: 0 }, 450).y).toBe(1);
		expect(rotate({ x: 1, y: 0 }, 180)).toEqual({ x: -1, y: -0 });
	});

	test('a box holds every point, and only just', () => {
		fc.assert(
			fc.property(fc.array(point, { minLength: 1 }), (points) => {
				const box = boxOf(points);
				for (const p of points) expect(distanceToBox(p, box)).toBe(0);
				expect(points.some((p) => p.x === box.minX)).toBe(true);
				expect(points.some((p) => p.y === box.maxY)).toBe(true);
			})
		);
	});

	test('no points give an inside-out box, which touches nothing', () => {
		const nothing = boxOf([]);
		expect(nothing.minX).toBe(Infinity);
		expect(boxesTouch(nothing, boxOf(square))).toBe(false);
	});

	test('boxes that share an edge touch, and a margin reaches further', () => {
		const a = boxOf(square);
		const b = { minX: 2, maxX: 3, minY: 0, maxY: 1 };
		const c = { minX: 2.4, maxX: 3, minY: 0, maxY: 1 };
		expect(boxesTouch(a, b)).toBe(true);
		expect(boxesTouch(a, c)).toBe(false);
		expect(boxesTouch(a, c, 0.5)).toBe(true);
	});

	test('distance to a box: beside it, off its corner, inside it', () => {
		const box = boxOf(square);
		expect(distanceToBox({ x: 5, y: 1 }, box)).toBe(3);
		expect(distanceToBox({ x: 5, y: 6 }, box)).toBe(5);
		expect(distanceToBox({ x: 1, y: 1 }, box)).toBe(0);
	});
});

test('the box around a turned body: upright at right angles, widest between', () => {
	const at = { x: 10, y: 5 };
	expect(bodyBox(at, 4, 2, 0)).toEqual({ minX: 8, maxX: 12, minY: 4, maxY: 6 });
	expect(bodyBox(at, 4, 2, 90).maxX).toBeCloseTo(11, 9);
	fc.assert(
		fc.property(fc.double({ min: 0, max: 360, noNaN: true }), (deg) => {
			const box = bodyBox(at, 4, 2, deg);
			expect(box.maxX - box.minX).toBeLessThanOrEqual(Math.hypot(4, 2) + 1e-9);
			expect((box.minX + box.maxX) / 2).toBeCloseTo(10, 9);
		})
	);
});

describe('what lies near', () => {
	const random = seededRandom(7);
	const boxes = Array.from({ length: 300 }, () => {
		const [x, y] = [random.uniform() * 50, random.uniform() * 50];
		return { minX: x, minY: y, maxX: x + random.uniform() * 4, maxY: y + random.uniform() * 4 };
	});

	test('the index finds the boxes that touch, no others, by index', () => {
		const touching = boxIndex(boxes);
		for (const box of boxes.slice(0, 60)) expect(touching(box)).toEqual(boxes.flatMap((other, i) => (boxesTouch(box, other) ? [i] : [])));
		// An edge that is shared touches.
		expect(boxIndex([{ minX: 0, minY: 0, maxX: 1, maxY: 1 }])({ minX: 1, minY: 1, maxX: 2, maxY: 2 })).toEqual([0]);
		expect(boxIndex([])(boxes[0]!)).toEqual([]);
	});

	test('points within a reach: on it is within, and a circle has no corners', () => {
		const near = pointIndex([
			{ x: 3, y: 4 },
			{ x: 4, y: 4 },
			{ x: 0, y: 0 }
		]);
		expect(near({ x: 0, y: 0 }, 5)).toEqual([0, 2]);
		expect(near({ x: 0, y: 0 }, 4.99)).toEqual([2]);
	});

	test('a margin all round', () => {
		expect(grown({ minX: 1, minY: 2, maxX: 3, maxY: 5 }, 0.5)).toEqual({ minX: 0.5, minY: 1.5, maxX: 3.5, maxY: 5.5 });
	});
});
