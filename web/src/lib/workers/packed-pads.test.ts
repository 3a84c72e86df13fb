import fc from 'fast-check';
import { expect, test } from 'vitest';
import { packPads, unpackPads } from './packed-pads.ts';

const number = fc.double({ min: -500, max: 500, noNaN: true });
const point = fc.record({ x: number, y: number });

test('outlines come out of the arrays as they went in, empty ones too', () => {
	const pads = fc.array(fc.record({ outline: fc.array(point, { maxLength: 40 }), centre: point }), { maxLength: 30 });
	fc.assert(
		fc.property(pads, (given) => {
			expect(unpackPads(packPads(given))).toEqual(given);
		})
	);
});
