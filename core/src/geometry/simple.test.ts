import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { governingWidth, isSimple, type Ring } from './index.ts';

const ring = (...points: [number, number][]): Ring => points.map(([x, y]) => ({ x, y }));
const square = ring([0, 0], [10, 0], [10, 10], [0, 10]);

describe('a ring that meets itself', () => {
	test.each<[string, Ring, boolean]>([
		['a square', square, true],
		['a square the other way round', [...square].reverse(), true],
		['an L', ring([0, 0], [4, 0], [4, 2], [2, 2], [2, 4], [0, 4]), true],
		['a corner in the middle of a straight edge', ring([0, 0], [5, 0], [10, 0], [10, 10], [0, 10]), true],
		['a bow tie', ring([0, 0], [10, 10], [10, 0], [0, 10]), false],
		['a square traced twice', [...square, ...square], false],
		['an edge that runs back', ring([0, 0], [10, 0], [5, 0], [5, 10]), false],
		['a corner on another edge', ring([0, 0], [10, 0], [10, 10], [5, 0], [0, 10]), false],
		['a cut to a hole', ring([0, 0], [10, 0], [10, 10], [0, 10], [0, 5], [3, 5], [3, 7], [6, 7], [6, 3], [3, 3], [3, 5], [0, 5]), false],
		['two corners', ring([0, 0], [1, 1]), false]
	])('%s', (_, points, simple) => expect(isSimple(points)).toBe(simple));

	test('many corners: a star is simple, with two corners exchanged it is not (property)', () => {
		fc.assert(
			fc.property(fc.integer({ min: 13, max: 60 }), fc.integer({ min: 0, max: 1000 }), (arms, seed) => {
				const star = Array.from({ length: 2 * arms }, (_, i) => {
					const r = i % 2 ? 4 + ((seed * (i + 7)) % 13) / 13 : 9;
					const at = (Math.PI * i) / arms;
					return { x: r * Math.cos(at), y: r * Math.sin(at) };
				});
				expect(isSimple(star)).toBe(true);
				const k = seed % arms;
				const crossed = star.map((p, i) => (i === k ? star[k + arms]! : i === k + arms ? star[k]! : p));
				expect(isSimple(crossed)).toBe(false);
			}),
			{ numRuns: 60 }
		);
	});

	test('has a width all the same, and soon', () => {
		const began = performance.now();
		expect(governingWidth({ outline: [...square, ...square], holes: [] })).toBeGreaterThan(0);
		const star = Array.from({ length: 300 }, (_, i) => ({ x: (i * 7919) % 500, y: (i * 104729) % 499 }));
		expect(governingWidth({ outline: star, holes: [] })).toBeGreaterThanOrEqual(0);
		expect(performance.now() - began).toBeLessThan(5000);
	});
});
