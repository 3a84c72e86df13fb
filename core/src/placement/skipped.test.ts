import { describe, expect, test } from 'vitest';
import { builtShare, withoutCircuits, type HeadProgram, type Placement } from './index.ts';

const placement = (refDes: string, circuit: number): Placement => ({
	refDes,
	circuit,
	feeder: 'A',
	at: { x: 0, y: 0 },
	rotationDeg: 0,
	nozzle: 'small',
	heightMm: 1
});

describe('circuits that are left out', () => {
	test('the share of a panel that is built', () => {
		expect([builtShare([], 4), builtShare([3], 4), builtShare([0, 1, 2, 3], 4)]).toEqual([1, 0.75, 0]);
	});

	test('one that the panel has not, or one named twice, is refused', () => {
		expect(() => builtShare([4], 4)).toThrow('skipped: expected circuits 0 to 3');
		expect(() => builtShare([-1], 4)).toThrow('skipped');
		expect(() => builtShare([0.5], 4)).toThrow('skipped');
		expect(() => builtShare([1, 1], 4)).toThrow('each circuit once');
		expect(builtShare([3, 0], 4)).toBe(0.5);
	});

	test('the head takes what is left in the same order, and no cycle for nothing', () => {
		const program: HeadProgram = {
			nozzles: ['small', 'small'],
			cycles: [
				{ held: [placement('R1', 0), placement('R1', 1)], order: [1, 0] },
				{ held: [placement('R2', 1), null], order: [0] },
				{ held: [placement('R2', 0), placement('R3', 0)], order: [0, 1] }
			]
		};
		expect(withoutCircuits(program, [1])).toEqual({
			nozzles: ['small', 'small'],
			cycles: [
				{ held: [placement('R1', 0), null], order: [0] },
				{ held: [placement('R2', 0), placement('R3', 0)], order: [0, 1] }
			]
		});
		expect(withoutCircuits(program, [])).toEqual(program);
		expect(withoutCircuits(program, [0, 1]).cycles).toEqual([]);
	});
});
