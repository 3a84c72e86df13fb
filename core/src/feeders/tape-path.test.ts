import { describe, expect, test } from 'vitest';
import { piecesInPath, reelsOfPanel, type LoadOfSlot } from './tape-path.ts';

test.each([
	[300, 4, 75],
	[300, 2, 150],
	[299, 4, 74],
	[0, 4, 0],
	[3.9, 4, 0]
])('%d mm of tape at a pitch of %d mm hold %d pieces', (pathMm, pitchMm, pieces) => {
	expect(piecesInPath(pathMm, pitchMm)).toBe(pieces);
});

test('a path or pitch that cannot be is refused', () => {
	expect(() => piecesInPath(-1, 4)).toThrow(/pathMm/);
	expect(() => piecesInPath(300, 0)).toThrow(/pitchMm/);
	expect(() => reelsOfPanel([], 0, 10)).toThrow(/perPanel/);
});

describe('the reels that have fed a panel', () => {
	const docked: LoadOfSlot = { reel: 'A', spliced: false, panelsSince: 40 };
	const spliced = (panelsSince: number): LoadOfSlot[] => [docked, { reel: 'B', spliced: true, panelsSince }];

	test('after a splice the reel before goes on for the pieces in the path, then the new one; the panel between has both', () => {
		// 20 pieces in the path, 8 a panel: two panels and a half.
		expect([1, 2, 3, 4].map((k) => reelsOfPanel(spliced(k), 8, 20))).toEqual([['A'], ['A'], ['A', 'B'], ['B']]);
		// Sixteen are two panels to the piece.
		expect([2, 3].map((k) => reelsOfPanel(spliced(k), 8, 16))).toEqual([['A'], ['B']]);
		expect(reelsOfPanel(spliced(1), 8, 0)).toEqual(['B']);
	});

	test('a feeder that was put in feeds from its first piece on', () => {
		expect(reelsOfPanel([docked, { reel: 'B', spliced: false, panelsSince: 1 }], 8, 20)).toEqual(['B']);
		expect(reelsOfPanel([{ reel: 'B', spliced: true, panelsSince: 1 }], 8, 20)).toEqual(['B']);
		expect(reelsOfPanel([], 8, 20)).toEqual([]);
	});

	test('a second splice while the first still runs through: the tapes come one after the other', () => {
		const loads: LoadOfSlot[] = [docked, { reel: 'B', spliced: true, panelsSince: 3 }, { reel: 'C', spliced: true, panelsSince: 1 }];
		expect(reelsOfPanel(loads, 8, 20)).toEqual(['A', 'B']);
		expect(reelsOfPanel(loads, 8, 4)).toEqual(['B', 'C']);
	});
});
