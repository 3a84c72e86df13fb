import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { MessageOf } from './messages.ts';
import { message } from './messages.ts';
import { DEPOSIT_LIMITS } from '@keen-relay/core/inspection';
import { BLOCK_PADS, fromSummary, judgeReadings as judged, wrongLength, type SidePads } from './paste.ts';
import { readingsForCopy } from './readings-copy.ts';

const FOIL_UM = 100;
const judgeReadings = (m: MessageOf<'paste_inspection'>, side: SidePads, foilUm: number) => judged(m, side, foilUm, DEPOSIT_LIMITS);
const pads = (n: number, circuits = 1): SidePads => ({
	circuits,
	classes: Array.from({ length: n }, (_, i) => (i % 3 === 0 ? 'smallChip' : 'chip')),
	widthsMm: Array.from({ length: n }, () => 0.5),
	refDes: Array.from({ length: n }, (_, i) => `R${i}`)
});

const readings = (volumePct: number[], more: Partial<MessageOf<'paste_inspection'>> = {}): MessageOf<'paste_inspection'> => ({
	source: 'Line 1/Paste check',
	bootId: '6f3a1c0e-7b0f-4c57-9a57-0c9d3e1f2a44',
	number: 0,
	at: '2026-11-25T09:00:00Z',
	type: 'paste_inspection',
	panel: 'J-1-0001',
	printAttempt: 1,
	inspectionAttempt: 1,
	volumePct,
	heightUm: volumePct.map(() => 100),
	areaPct: volumePct.map(() => 100),
	offsetXUm: volumePct.map(() => 0),
	offsetYUm: volumePct.map(() => 0),
	...more
});

test('a thermal pad fails by the mean of its windows, though each window passes', () => {
	const side: SidePads = { circuits: 2, classes: ['thermal', 'thermal', 'chip'], widthsMm: [1, 1, 0.5], refDes: ['U1', 'U1', 'R1'] };
	const result = judgeReadings(readings([61, 65, 100, 90, 95, 100]), side, FOIL_UM);
	expect(result).toMatchObject({ fails: 1, result: 'reject', worst: [{ pad: 0, code: 'thermal mean', volumePct: 63 }] });
	expect(result.classes.map((c) => [c.padClass, c.fails])).toEqual([
		['thermal', 1],
		['chip', 0]
	]);
});

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

describe('readings of a panel', () => {
	test('of another board are refused by name and number', () => {
		expect(wrongLength(readings([100, 100, 100]), pads(4))).toBe('volumePct has 3 values, the panel has 4 pads');
		expect(wrongLength(readings([100, 100, 100, 100], { offsetXUm: [0] }), pads(2, 2))).toBe(
			'offsetXUm has 1 values, the panel has 4 pads'
		);
		expect(wrongLength(readings([100, 100, 100, 100]), pads(2, 2))).toBeNull();
	});

	test('each pad goes by the limits of its class and the foil; the first that fails is named', () => {
		// Small chips fail below 60 %, chips below 50 %; both are watched a little above.
		const result = judgeReadings(readings([55, 55, 48, 62, 100, 5]), pads(6), FOIL_UM);
		expect(result).toMatchObject({ pads: 6, fails: 3, warnings: 2, result: 'reject' });
		expect(result.worst).toEqual([
			{ pad: 0, code: 'insufficient', volumePct: 55 },
			{ pad: 2, code: 'insufficient', volumePct: 48 },
			{ pad: 5, code: 'missing', volumePct: 5 }
		]);
		// 100 µm of paste on a foil of 150 µm is two thirds of it: nothing wrong; on a foil of 300 µm it is too low.
		expect(judgeReadings(readings([100]), pads(1), 150).fails).toBe(0);
		expect(judgeReadings(readings([100]), pads(1), 300).worst[0]!.code).toBe('height');
	});

	test('pads of the second circuit go by the same classes as those of the first', () => {
		const result = judgeReadings(readings([55, 55, 55, 55]), pads(2, 2), FOIL_UM);
		expect(result.worst.map((w) => w.pad)).toEqual([0, 2]);
	});

	test('what a machine has left of its readings gives the same sums (property)', () => {
		const volumes = fc.array(fc.integer({ min: 20, max: 180 }), { minLength: 6, maxLength: 120 });
		fc.assert(
			fc.property(volumes, (volumePct) => {
				const full = judgeReadings(readings(volumePct), pads(volumePct.length), FOIL_UM);
				const summary = message.parse({
					...readings([]),
					type: 'paste_summary',
					classes: full.classes.map(({ padClass, pads: n, fails, sum, sumSquares }) => ({
						padClass,
						pads: n,
						fails,
						warnings: padClass === 'chip' ? full.warnings : 0,
						meanVolumePct: sum / n,
						sdVolumePct: n > 1 ? Math.sqrt(Math.max(0, sumSquares - (sum * sum) / n) / (n - 1)) : 0
					})),
					worst: full.worst
				}) as MessageOf<'paste_summary'>;
				const again = fromSummary(summary);
				expect([again.pads, again.fails, again.warnings, again.result]).toEqual([full.pads, full.fails, full.warnings, full.result]);
				expect(again.meanVolumePct).toBeCloseTo(full.meanVolumePct, 6);
				again.classes.forEach((c, i) => expect(c.sumSquares / full.classes[i]!.sumSquares).toBeCloseTo(1, 9));
			}),
			{ numRuns: 60 }
		);
	});

	test('are stored in blocks of 64 pads, tenths of a percent, nothing lost at the end (property)', () => {
		fc.assert(
			fc.property(fc.array(fc.double({ min: -3276, max: 3276, noNaN: true }), { minLength: 1, maxLength: 200 }), (volumePct) => {
				const m = readings(volumePct);
				const copied = readingsForCopy([
					{
						boardSideId: 7,
						passId: 9,
						measuredAt: new Date('2026-11-25T09:00:00Z'),
						printAttempt: 1,
						inspectionAttempt: 1,
						values: [m.volumePct, m.heightUm, m.areaPct, m.offsetXUm, m.offsetYUm]
					}
				]);
				const { stored, blocks } = readBack(copied);
				expect(blocks).toEqual(Array.from({ length: Math.ceil(volumePct.length / BLOCK_PADS) }, (_, b) => b));
				expect(stored).toHaveLength(volumePct.length);
				stored.forEach((v, i) => expect(Math.abs(v / 10 - volumePct[i]!)).toBeLessThanOrEqual(0.0501));
			})
		);
	});
});

describe('summaries that are refused', () => {
	const summary = {
		...readings([]),
		type: 'paste_summary',
		classes: [{ padClass: 'chip', pads: 10, fails: 0, warnings: 0, meanVolumePct: 98, sdVolumePct: 4 }]
	};
	test.each([
		{ what: 'no class', change: { classes: [] } },
		{ what: 'an unknown class', change: { classes: [{ ...summary.classes[0], padClass: 'huge' }] } },
		{ what: 'no pads', change: { classes: [{ ...summary.classes[0], pads: 0 }] } },
		{ what: 'half a fail', change: { classes: [{ ...summary.classes[0], fails: 0.5 }] } },
		{ what: 'a pad below none', change: { worst: [{ pad: -1, code: 'x', volumePct: 4 }] } }
	])('$what', ({ change }) => {
		expect(message.safeParse(summary).success).toBe(true);
		expect(message.safeParse({ ...summary, ...change }).success).toBe(false);
	});
});
