import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { individualsChart } from '../control/index.ts';
import { seededRandom } from '../numerics/index.ts';
import { withoutStrokeAndWipe } from './index.ts';

// What a chart of prints is drawn from: whatever belongs to the stroke or to the wipe phase is taken out, whatever else happened stays.

const prints = (count: number, wipeEvery: number) =>
	Array.from({ length: count }, (_, i) => ({ stroke: i % 2 ? 'R' : 'F', printsSinceWipe: i % wipeEvery }));
const noise = (count: number, seed: number, sigma = 0.8) => {
	const random = seededRandom(seed);
	return Array.from({ length: count }, () => 95 + sigma * random.normal());
};

describe('stroke and wipe phase taken out', () => {
	test('a difference of the strokes, of any size, changes nothing but the level', () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 1e6 }), fc.double({ min: -20, max: 20, noNaN: true }), (seed, apart) => {
				const panels = prints(40, 7);
				const plain = noise(40, seed);
				const split = plain.map((v, i) => v + (panels[i]!.stroke === 'F' ? apart / 2 : -apart / 2));
				const [a, b] = [withoutStrokeAndWipe(plain, panels).cleared, withoutStrokeAndWipe(split, panels).cleared];
				const shift = b[0]! - a[0]!;
				a.forEach((v, i) => expect(b[i]! - v).toBeCloseTo(shift, 6));
			}),
			{ numRuns: 60, seed: 31 }
		);
	});

	test('a sawtooth between wipes no longer widens the limits', () => {
		for (const seed of [1, 2, 3, 4, 5]) {
			const panels = prints(60, 5);
			const plain = noise(60, seed);
			const saw = plain.map((v, i) => v - 2.5 * panels[i]!.printsSinceWipe + (panels[i]!.stroke === 'F' ? 3 : -3));
			const width = (values: number[]) => {
				const { upper, lower } = individualsChart(values);
				return upper - lower;
			};
			expect(width(saw)).toBeGreaterThan(3 * width(plain));
			expect(width(withoutStrokeAndWipe(saw, panels).cleared)).toBeLessThan(1.35 * width(plain));
		}
	});

	test('a panel that went wrong still stands out, and a run that drifts still drifts', () => {
		const panels = prints(60, 5);
		const wrong = noise(60, 9).map((v, i) => v - 2 * panels[i]!.printsSinceWipe - (i === 33 ? 14 : 0));
		expect(individualsChart(withoutStrokeAndWipe(wrong, panels).cleared).beyond).toContain(33);
		const drifting = noise(60, 10).map((v, i) => v - 0.25 * i);
		const { cleared } = withoutStrokeAndWipe(drifting, panels);
		const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
		expect(mean(cleared.slice(0, 20)) - mean(cleared.slice(40))).toBeGreaterThan(7);
	});

	test('prints that nobody reported keep their values', () => {
		const values = noise(12, 4);
		const unknown = values.map(() => ({ stroke: '?', printsSinceWipe: -1 }));
		expect(withoutStrokeAndWipe(values, unknown).cleared).toEqual(values);
	});

	test('the level of the whole stays where it was', () => {
		fc.assert(
			fc.property(
				fc.array(fc.double({ min: 40, max: 160, noNaN: true }), { minLength: 1, maxLength: 60 }),
				fc.integer({ min: 1, max: 12 }),
				(values, wipeEvery) => {
					const { noStroke, cleared } = withoutStrokeAndWipe(values, prints(values.length, wipeEvery));
					expect(cleared).toHaveLength(values.length);
					for (const v of [...noStroke, ...cleared]) expect(Number.isFinite(v)).toBe(true);
					expect(Math.min(...noStroke)).toBeGreaterThan(Math.min(...values) - 121);
				}
			),
			{ numRuns: 60, seed: 32 }
		);
	});
});
