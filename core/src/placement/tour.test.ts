import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { closedTour, heldKarp, shortestPath } from './index.ts';

const point = fc.record({ x: fc.integer({ min: 0, max: 300 }), y: fc.integer({ min: 0, max: 200 }) });
const apart = (a: { x: number; y: number }, b: { x: number; y: number }) => Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y));
const between = (points: readonly { x: number; y: number }[]) => points.map((a) => points.map((b) => apart(a, b)));

describe('the shortest way through places', () => {
	test('from a start to an end, beyond what is compared whole: never longer than nearest first, nothing left out', () => {
		fc.assert(
			fc.property(fc.array(point, { minLength: 13, maxLength: 40 }), point, point, (points, start, end) => {
				const d = between(points);
				const way = shortestPath(
					points.length,
					(i) => apart(start, points[i]!),
					d,
					(i) => apart(points[i]!, end),
					{ kicks: 300 }
				);
				expect([...way].sort((a, b) => a - b)).toEqual(points.map((_, i) => i));
				const length = (order: readonly number[]) =>
					apart(start, points[order[0]!]!) +
					order.slice(1).reduce((sum, at, i) => sum + d[order[i]!]![at]!, 0) +
					apart(points[order.at(-1)!]!, end);
				const open = new Set(points.keys());
				const nearest: number[] = [];
				for (let at = start; open.size;) {
					const next = [...open].reduce((a, b) => (apart(at, points[b]!) < apart(at, points[a]!) ? b : a));
					open.delete(next);
					nearest.push(next);
					at = points[next]!;
				}
				expect(length(way)).toBeLessThanOrEqual(length(nearest) + 1e-6);
			}),
			{ numRuns: 60 }
		);
	});

	test('what is found beyond twelve places is what is exact there: twelve and one that lies on the way', () => {
		fc.assert(
			fc.property(fc.array(point, { minLength: 12, maxLength: 12 }), point, point, (points, start, end) => {
				const length = (of: readonly { x: number; y: number }[], order: readonly number[]) =>
					apart(start, of[order[0]!]!) +
					order.slice(1).reduce((sum, at, i) => sum + apart(of[order[i]!]!, of[at]!), 0) +
					apart(of[order.at(-1)!]!, end);
				const search = (of: readonly { x: number; y: number }[]) =>
					shortestPath(
						of.length,
						(i) => apart(start, of[i]!),
						between(of),
						(i) => apart(of[i]!, end)
					);
				// A place twice costs nothing more.
				const twice = [...points, points[5]!];
				expect(length(twice, search(twice))).toBeLessThanOrEqual(length(points, search(points)) * 1.01 + 1e-6);
			}),
			{ numRuns: 25 }
		);
	});

	test('the same places and seed give the same way', () => {
		const points = Array.from({ length: 30 }, (_, i) => ({ x: (i * 37) % 101, y: (i * 53) % 89 }));
		expect(closedTour(between(points), { kicks: 200, seed: 4 })).toEqual(closedTour(between(points), { kicks: 200, seed: 4 }));
	});

	test('nothing, one place and two are tours too', () => {
		expect(closedTour([])).toEqual({ order: [], seconds: 0 });
		expect(closedTour([[0]])).toEqual({ order: [0], seconds: 0 });
		expect(
			closedTour([
				[0, 3],
				[3, 0]
			])
		).toEqual({ order: [0, 1], seconds: 6 });
		expect(
			shortestPath(
				0,
				() => 0,
				[],
				() => 0
			)
		).toEqual([]);
	});

	test('the exact order on a line, from its end', () => {
		const d = [0, 10, 20, 30].map((a) => [0, 10, 20, 30].map((b) => Math.abs(a - b)));
		expect(
			heldKarp(
				4,
				(i) => Math.abs(35 - 10 * i),
				d,
				() => 0
			)
		).toEqual([3, 2, 1, 0]);
	});
});
