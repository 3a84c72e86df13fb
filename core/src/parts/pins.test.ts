import { describe, expect, test } from 'vitest';
import { rotate } from '../numerics/index.ts';
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
		expect(pinsOfPart(part, apertures, { leads: 2, pinOneDeg: 180 })).toEqual(['1', '2']);
		expect(pinsOfPart(part, apertures, { leads: 2, pinOneDeg: 0 })).toEqual(['2', '1']);
	});
	test('two rows: counter-clockwise from the lower left', () => {
		const { part, apertures } = placed(ROWS);
		const pins = pinsOfPart(part, apertures, { leads: 8, pinOneDeg: (Math.atan2(-2.7, -1.905) * 180) / Math.PI + 360 });
		expect(pins).toEqual(['1', '2', '3', '4', '8', '7', '6', '5']);
	});
	test.each([0, 90, 137.5, 180, 270])('turned by %d° the same openings have the same pins', (rotationDeg) => {
		const { part, apertures } = placed(ROWS, rotationDeg);
		expect(pinsOfPart(part, apertures, { leads: 8, pinOneDeg: 234.8 })).toEqual(['1', '2', '3', '4', '8', '7', '6', '5']);
	});
	test('four sides: the windows of the middle pad have no pin', () => {
		const { part, apertures } = placed(QUAD, 45);
		const pins = pinsOfPart(part, apertures, { leads: 16, pinOneDeg: 154 })!;
		expect(pins.slice(16)).toEqual([null, null, null, null]);
		// Left side from the top down, then along the bottom.
		expect(pins.slice(12, 16)).toEqual(['4', '3', '2', '1']);
		expect(pins.slice(0, 4)).toEqual(['5', '6', '7', '8']);
		expect(new Set(pins.slice(0, 16)).size).toBe(16);
	});
	test('the order in the file does not matter', () => {
		const { part, apertures } = placed(ROWS);
		const turned = { ...part, apertures: [...part.apertures].reverse() };
		const [a, b] = [part, turned].map((p) => pinsOfPart(p, apertures, { leads: 8, pinOneDeg: 234.8 })!);
		expect([...b!].reverse()).toEqual(a);
	});
	test('another number of openings than leads: no pin is guessed', () => {
		const { part, apertures } = placed(ROWS.slice(0, 7));
		expect(pinsOfPart(part, apertures, { leads: 8, pinOneDeg: 234.8 })).toBeNull();
		const more = placed([...ROWS, [0, 2.7]]);
		expect(pinsOfPart(more.part, more.apertures, { leads: 8, pinOneDeg: 234.8 })).toBeNull();
	});
	test('no opening in the direction of pin 1: no pin is guessed', () => {
		const { part, apertures } = placed(CHIP);
		expect(pinsOfPart(part, apertures, { leads: 2, pinOneDeg: 180 })).not.toBeNull();
		const four = placed(QUAD.slice(0, 16));
		expect(pinsOfPart(four.part, four.apertures, { leads: 16, pinOneDeg: 135 })).toBeNull();
	});
});
