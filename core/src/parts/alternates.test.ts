import { describe, expect, test } from 'vitest';
import { compareAlternate, type AlternateSide } from './index.ts';

const side = (partNumber: string, over: Partial<AlternateSide> = {}): AlternateSide => ({
	partNumber,
	packageName: 'RESC1005X40N',
	body: { kind: 'chip', heightMm: 0.4, pitchMm: null },
	quadrant: null,
	moistureLevel: '1',
	...over
});
const part = side('R-1');

describe('a part that stands for another', () => {
	test.each([
		{ what: 'the same footprint', other: side('R-2'), refused: null, differs: [] },
		{ what: 'the same part', other: side('R-1'), refused: 'R-1 is the same part.', differs: [] },
		{
			what: 'another footprint',
			other: side('R-2', { packageName: 'RESC1608X55N' }),
			refused: 'R-2 has another footprint: RESC1608X55N, where R-1 has RESC1005X40N.',
			differs: []
		},
		{
			what: 'a package that nobody said',
			other: side('R-2', { packageName: null, body: null }),
			refused: null,
			differs: ['nobody said yet which package R-2 has']
		},
		{
			what: 'a higher body',
			other: side('R-2', { body: { kind: 'chip', heightMm: 0.55, pitchMm: null } }),
			refused: null,
			differs: ['it is 0.55 mm high, not 0.4 mm']
		},
		{
			what: 'another moisture level',
			other: side('R-2', { moistureLevel: '3' }),
			refused: null,
			differs: ['its moisture level is 3, not 1']
		},
		{ what: 'an unknown moisture level', other: side('R-2', { moistureLevel: null }), refused: null, differs: [] }
	])('$what', ({ other, refused, differs }) => expect(compareAlternate(part, other)).toEqual({ refused, differs }));

	test('one that lies turned in its tape is named', () => {
		expect(compareAlternate(side('D-1', { quadrant: 1 }), side('D-2', { quadrant: 2 })).differs).toEqual([
			'pin 1 lies in quadrant 2 of its tape, not in 1: it would be placed turned'
		]);
	});
});
