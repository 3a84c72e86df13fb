import { describe, expect, test } from 'vitest';
import { rotate } from '../geometry/index.ts';
import { pinsOfPart } from './index.ts';

/** Openings of a part at a place and angle, given where they stand at 0°. */
function placed(at: readonly [number, number][], rotationDeg = 0, xMm = 40, yMm = 25) {
	return {
		part: { xMm, yMm, rotationDeg, apertures: at.map((_, i) => i) },
		apertures: at.map(([x, y]) => {
			const p = rotate({ x, y }, rotationDeg);
			return { centre: { x: p.x + xMm, y: p.y + yMm } };
		})
	};
}

const CHIP: [number, number][] = [
	[-0.5, 0],
	[0.5, 0]
];
/** Eight leads in two rows, in the order of a file that runs row by row: lower row from the left, then upper row from the left. */
const ROWS: [number, number][] = [-1.905, -0.635, 0.635, 1.905]
	.map((x): [number, number] => [x, -2.7])
	.concat([-1.905, -0.635, 0.635, 1.905].map((x): [number, number] => [x, 2.7]));
/** Sixteen leads on four sides with a middle pad in four windows. */
const SIDES = [-0.75, -0.25, 0.25, 0.75];
const QUAD: [number, number][] = [
	...SIDES.map((s): [number, number] => [s, -1.5]),
	...SIDES.map((s): [number, number] => [1.5, s]),
	...SIDES.map((s): [number, number] => [s, 1.5]),
	...SIDES.map((s): [number, number] => [-1.5, s]),
	[-0.4, -0.4],
	[0.4, -0.4],
	[-0.4, 0.4],
	[0.4, 0.4]
];

describe('pins from a confirmed land pattern', () => {
	test('two ends: pin 1 where it was confirmed, pin 2 opposite', () => {
		const { part, apertures } = placed(CHIP);
		expect(pinsOfPart(part, apertures, { leads: 2, pinOneDeg: 180, grid: false })).toEqual(['1', '2']);
		expect(pinsOfPart(part, apertures, { leads: 2, pinOneDeg: 0, grid: false })).toEqual(['2', '1']);
	});
	test('two rows: counter-clockwise from the lower left', () => {
		const { part, apertures } = placed(ROWS);
		const pins = pinsOfPart(part, apertures, { leads: 8, pinOneDeg: (Math.atan2(-2.7, -1.905) * 180) / Math.PI + 360, grid: false });
		expect(pins).toEqual(['1', '2', '3', '4', '8', '7', '6', '5']);
	});
	test.each([0, 90, 137.5, 180, 270])('turned by %d° the same openings have the same pins', (rotationDeg) => {
		const { part, apertures } = placed(ROWS, rotationDeg);
		expect(pinsOfPart(part, apertures, { leads: 8, pinOneDeg: 234.8, grid: false })).toEqual(['1', '2', '3', '4', '8', '7', '6', '5']);
	});
	test('four sides: the windows of the middle pad have no pin', () => {
		const { part, apertures } = placed(QUAD, 45);
		const pins = pinsOfPart(part, apertures, { leads: 16, pinOneDeg: 154, grid: false })!;
		expect(pins.slice(16)).toEqual([null, null, null, null]);
		// Left side from the top down, then along the bottom.
		expect(pins.slice(12, 16)).toEqual(['4', '3', '2', '1']);
		expect(pins.slice(0, 4)).toEqual(['5', '6', '7', '8']);
		expect(new Set(pins.slice(0, 16)).size).toBe(16);
	});
	test('the order in the file does not matter', () => {
		const { part, apertures } = placed(ROWS);
		const turned = { ...part, apertures: [...part.apertures].reverse() };
		const [a, b] = [part, turned].map((p) => pinsOfPart(p, apertures, { leads: 8, pinOneDeg: 234.8, grid: false })!);
		expect([...b!].reverse()).toEqual(a);
	});
	test('another number of openings than leads: no pin is guessed', () => {
		const { part, apertures } = placed(ROWS.slice(0, 7));
		expect(pinsOfPart(part, apertures, { leads: 8, pinOneDeg: 234.8, grid: false })).toBeNull();
		const more = placed([...ROWS, [0, 2.7]]);
		expect(pinsOfPart(more.part, more.apertures, { leads: 8, pinOneDeg: 234.8, grid: false })).toBeNull();
	});
	test('no opening in the direction of pin 1: no pin is guessed', () => {
		const { part, apertures } = placed(CHIP);
		expect(pinsOfPart(part, apertures, { leads: 2, pinOneDeg: 180, grid: false })).not.toBeNull();
		const four = placed(QUAD.slice(0, 16));
		expect(pinsOfPart(four.part, four.apertures, { leads: 16, pinOneDeg: 135, grid: false })).toBeNull();
	});
});

describe('pins of a grid', () => {
	/** Columns × rows of balls 0.8 mm apart, row by row from the upper left, the middle ones left out where asked. */
	const grid = (columns: number, rows: number, without: (c: number, r: number) => boolean = () => false) =>
		Array.from({ length: rows * columns }, (_, i): [c: number, r: number] => [i % columns, Math.floor(i / columns)])
			.filter(([c, r]) => !without(c, r))
			.map(([c, r]): [number, number] => [(c - (columns - 1) / 2) * 0.8, ((rows - 1) / 2 - r) * 0.8]);
	const pinsOf = (at: [number, number][], pinOneDeg: number, rotationDeg = 0) => {
		const { part, apertures } = placed(at, rotationDeg);
		return pinsOfPart(part, apertures, { leads: at.length, pinOneDeg, grid: true });
	};

	test('A1 at the upper left: numbers to the right, letters down', () => {
		expect(pinsOf(grid(3, 2), 135)).toEqual(['A1', 'A2', 'A3', 'B1', 'B2', 'B3']);
	});
	test.each([
		// With A1 at the lower left the numbers run up and the letters to the right.
		[225, ['A2', 'B2', 'C2', 'A1', 'B1', 'C1']],
		[315, ['B3', 'B2', 'B1', 'A3', 'A2', 'A1']],
		[45, ['C1', 'B1', 'A1', 'C2', 'B2', 'A2']]
	])('A1 in the direction of %d°: the same grid turned, never mirrored', (deg, pins) => {
		expect(pinsOf(grid(3, 2), deg)).toEqual(pins);
	});
	test('turned on the board the same openings have the same pins; a middle without balls keeps the counting', () => {
		const ring = grid(6, 6, (c, r) => c > 1 && c < 4 && r > 1 && r < 4);
		const pins = pinsOf(ring, 135)!;
		expect(pins).toHaveLength(32);
		expect(pins.at(-1)).toBe('F6');
		expect(pins).not.toContain('C3');
		for (const turn of [37, 90, 180, 270]) expect(pinsOf(ring, 135, turn)).toEqual(pins);
	});
	test('letters that are taken for figures are left out, and go on with two', () => {
		const letters = pinsOf(grid(2, 22), 100 + 35)!
			.filter((p) => p?.endsWith('1'))
			.map((p) => p?.slice(0, -1));
		expect(letters.join(' ')).toBe('A B C D E F G H J K L M N P R T U V W Y AA AB');
	});
	test('no corner in that direction, another number of balls, a shifted row: no pin is guessed', () => {
		expect(pinsOf(grid(3, 3), 90)).toBeNull();
		const { part, apertures } = placed(grid(3, 3));
		expect(pinsOfPart(part, apertures, { leads: 8, pinOneDeg: 135, grid: true })).toBeNull();
		expect(
			pinsOf(
				grid(3, 3).map(([x, y]): [number, number] => (y > 0.5 ? [x + 0.3, y] : [x, y])),
				135
			)
		).toBeNull();
	});
});
