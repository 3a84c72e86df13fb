import fc from 'fast-check';
import { expect, test } from 'vitest';
import { BLOCK_PADS } from '../../queries/readings.ts';
import { readingsForCopy } from './readings-copy.ts';

/** First column of the readings and the block numbers, as the binary COPY format has them. */
function readBack(copied: Buffer): { stored: number[]; blocks: number[] } {
	const [stored, blocks]: [number[], number[]] = [[], []];
	let at = 19;
	while (copied.readInt16BE(at) !== -1) {
		expect(copied.readInt16BE(at)).toBe(11);
		at += 2;
		for (let field = 0; field < 11; field++) {
			const length = copied.readInt32BE(at);
			at += 4;
			if (field === 1) blocks.push(copied.readInt16BE(at));
			if (field === 6) for (let i = 0; i < copied.readInt32BE(at + 12); i++) stored.push(copied.readInt16BE(at + 24 + 6 * i));
			at += length;
		}
	}
	expect(at + 2).toBe(copied.length);
	return { stored, blocks };
}

test('are stored in blocks of 64 pads, tenths of a percent, nothing lost at the end (property)', () => {
	fc.assert(
		fc.property(fc.array(fc.double({ min: -3276, max: 3276, noNaN: true }), { minLength: 1, maxLength: 200 }), (volumePct) => {
			const flat = volumePct.map(() => 100);
			const copied = readingsForCopy([
				{
					boardSideId: 7,
					passId: 9,
					measuredAt: new Date('2026-11-25T09:00:00Z'),
					printAttempt: 1,
					inspectionAttempt: 1,
					values: [volumePct, flat, flat, flat, flat]
				}
			]);
			const { stored, blocks } = readBack(copied);
			expect(blocks).toEqual(Array.from({ length: Math.ceil(volumePct.length / BLOCK_PADS) }, (_, b) => b));
			expect(stored).toHaveLength(volumePct.length);
			stored.forEach((v, i) => expect(Math.abs(v / 10 - volumePct[i]!)).toBeLessThanOrEqual(0.0501));
		})
	);
});
