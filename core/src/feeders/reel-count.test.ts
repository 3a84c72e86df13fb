import { expect, test } from 'vitest';
import { reelPieces, tapeThicknessMm } from './reel-count.ts';

test.each([
	[170, 60, 0.75, 2, 13_247],
	[110, 60, 0.75, 2, 4_451],
	[165, 60, 0.95, 4, 4_883],
	[60, 60, 0.75, 4, 0]
])('wound from %d over %d mm, %d mm thick, %d mm apart: %d pieces', (outer, hub, tape, pitch, pieces) => {
	expect(reelPieces(outer, hub, tape, pitch)).toBe(pieces);
});

test.each([
	[59, 60, 0.75, 2, /outerMm/],
	[170, 60, 0, 2, /tapeMm/],
	[170, 60, 0.75, 3, /pitchMm/],
	[170, 60, 0.75, 0, /pitchMm/],
	[170, 60, 0.75, 6, /pitchMm/],
	[NaN, 60, 0.75, 2, /outerMm/]
])('%d over %d mm, %d mm thick, %d mm apart cannot be', (outer, hub, tape, pitch, field) => {
	expect(() => reelPieces(outer, hub, tape, pitch)).toThrow(field);
});

test('the thickness that a full reel gives counts that reel right', () => {
	const thick = tapeThicknessMm(178, 60, 5000, 4);
	expect(thick).toBeCloseTo(1.103, 3);
	expect(Math.abs(reelPieces(178, 60, thick, 4) - 5000)).toBeLessThanOrEqual(1);
	expect(() => tapeThicknessMm(178, 60, 0, 4)).toThrow(/pieces/);
});
