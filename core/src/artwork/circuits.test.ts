import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { rotate } from '../geometry/index.ts';
import { guessCircuits } from './index.ts';

interface Drawn {
	centre: { x: number; y: number };
	areaMm2: number;
	perimeterMm: number;
	lengthMm: number;
}

/** A circuit of different openings, drawn at random in 30 by 20 mm. */
const circuit = fc
	.array(fc.record({ x: fc.integer({ min: 0, max: 300 }), y: fc.integer({ min: 0, max: 200 }), size: fc.integer({ min: 0, max: 4 }) }), {
		minLength: 12,
		maxLength: 40
	})
	.map((list) => {
		const seen = new Set<string>();
		return list
			.filter(({ x, y }) => !seen.has(`${x} ${y}`) && seen.add(`${x} ${y}`))
			.map(({ x, y, size }): Drawn => {
				const [l, w] = [0.4 + 0.3 * size, 0.4 + 0.1 * size];
				return { centre: { x: x / 10, y: y / 10 }, areaMm2: l * w, perimeterMm: 2 * (l + w), lengthMm: l };
			});
	})
	.filter((list) => list.length >= 12 && new Set(list.map((o) => o.areaMm2)).size >= 3);

const placed = (of: readonly Drawn[], places: readonly { x: number; y: number; turn: number }[]): Drawn[] =>
	places.flatMap(({ x, y, turn }) =>
		of.map((o) => {
			const p = rotate(o.centre, turn);
			return { ...o, centre: { x: p.x + x, y: p.y + y } };
		})
	);

describe('circuits of a panel', () => {
	test('copies side by side are found, however many and wherever the panel lies', () => {
		fc.assert(
			fc.property(circuit, fc.integer({ min: 2, max: 5 }), fc.integer({ min: -400, max: 400 }), (of, n, shift) => {
				const panel = placed(
					of,
					Array.from({ length: n }, (_, i) => ({ x: shift + 40 * i, y: shift / 3, turn: 0 }))
				);
				const guess = guessCircuits(panel);
				expect(guess.kind).toBe('panel');
				expect(guess.members.length * guess.places.length).toBeGreaterThanOrEqual(0.8 * panel.length);
			}),
			{ numRuns: 40, seed: 4 }
		);
	});
	test('a turned copy is found with its turn, and every opening is one of the two circuits', () => {
		fc.assert(
			fc.property(circuit, fc.constantFrom(90, 180, 270), (of, turn) => {
				const panel = placed(of, [
					{ x: 0, y: 0, turn: 0 },
					{ x: 120, y: 60, turn }
				]);
				const guess = guessCircuits(panel);
				expect(guess.kind).toBe('panel');
				expect(guess.places).toHaveLength(2);
				expect(((guess.places[1]!.rotationDeg % 360) + 360) % 360).toBe(turn);
			}),
			{ numRuns: 30, seed: 6 }
		);
	});
	test('every member’s images are openings of its own shape', () => {
		fc.assert(
			fc.property(circuit, (of) => {
				const panel = placed(of, [
					{ x: 0, y: 0, turn: 0 },
					{ x: 45, y: 0, turn: 0 },
					{ x: 90, y: 0, turn: 0 }
				]);
				const { circuitOf, members, places } = guessCircuits(panel);
				for (let c = 0; c < places.length; c++) {
					const own = panel.filter((_, i) => circuitOf[i] === c).map((o) => o.areaMm2);
					expect(own.sort()).toEqual(members.map((i) => panel[i]!.areaMm2).sort());
				}
			}),
			{ numRuns: 30, seed: 2 }
		);
	});
	test('one circuit alone is one circuit', () => {
		fc.assert(
			fc.property(circuit, (of) => {
				const guess = guessCircuits(of);
				// A few of its parts may repeat by chance; the whole does not.
				if (guess.kind === 'panel') expect(guess.share).toBeGreaterThanOrEqual(0.8);
				else expect(guess.members).toHaveLength(of.length);
			}),
			{ numRuns: 60, seed: 9 }
		);
	});
	test('rows of equal chips are no circuits', () => {
		const chips = Array.from({ length: 9 }, (_, i) => ({ x: 8 + (i % 3) * 9, y: 6 + Math.floor(i / 3) * 7 }));
		const openings = chips.flatMap(({ x, y }) =>
			[-0.5, 0.5].map((dx): Drawn => ({ centre: { x: x + dx, y }, areaMm2: 0.27, perimeterMm: 2.1, lengthMm: 0.55 }))
		);
		expect(guessCircuits(openings).kind).toBe('circuit');
	});
	test('too few openings repeat nothing', () => {
		expect(guessCircuits([]).kind).toBe('circuit');
		expect(
			guessCircuits(placed([{ centre: { x: 0, y: 0 }, areaMm2: 1, perimeterMm: 4, lengthMm: 1 }], [{ x: 0, y: 0, turn: 0 }])).because
		).toContain('Too few');
	});
});
