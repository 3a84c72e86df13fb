import { describe, expect, test } from 'vitest';
import { chooseFoil, judgeStepArea, stepArea, stepKeepOutMm, withNeeds } from './index.ts';

const rectangle = (refDes: string | null, x: number, y: number, l: number, w: number, from = 0) => ({
	refDes,
	name: `${refDes} opening`,
	from,
	shape: 'rectangle',
	centre: { x, y },
	outline: [
		{ x: x - l / 2, y: y - w / 2 },
		{ x: x + l / 2, y: y - w / 2 },
		{ x: x + l / 2, y: y + w / 2 },
		{ x: x - l / 2, y: y + w / 2 }
	],
	areaMm2: l * w,
	perimeterMm: 2 * (l + w),
	widthMm: Math.min(l, w),
	lengthMm: Math.max(l, w)
});

describe('a step in the foil', () => {
	const fine = [rectangle('U2', 0, 0, 0.27, 0.27, 0), rectangle('U2', 0.5, 0, 0.27, 0.27, 1)];

	test('its area surrounds each part by 0.9 mm for each 25 µm, and what stands clear is clear', () => {
		const { boxes, keepOutMm, nearest, tooNear } = stepArea([...fine, rectangle('J1', 6, 0, 2, 1.4, 2)], [0, 1], 27);
		expect(keepOutMm).toBeCloseTo(1.622, 9);
		expect(boxes).toEqual([
			{ minX: expect.closeTo(-1.107, 9), maxX: expect.closeTo(1.607, 9), minY: expect.closeTo(-1.107, 9), maxY: expect.closeTo(1.107, 9) }
		]);
		expect([nearest, tooNear]).toEqual([null, []]);
	});
	test('an opening nearer than the keep-out is named with its distance', () => {
		const near = stepArea([...fine, rectangle('C9', 2.203, 0, 1, 0.5, 2)], [0, 1], 27);
		expect(near.tooNear).toEqual([2]);
		expect(judgeStepArea(near, (i) => `opening ${i}`)).toMatchObject({
			level: 'act',
			statement: '1 openings stand too near the step: opening 2, 1.07 mm from opening 1.'
		});
		expect(judgeStepArea({ ...near, tooNear: [] }, String).level).toBe('good');
		expect(near.nearest).toMatchObject({ inside: 1, outside: 2, gapMm: expect.closeTo(2.203 - 0.5 - 0.635, 9) });
	});
	test('exactly on the keep-out is clear; two parts have two areas', () => {
		const x = 0.635 + stepKeepOutMm(20) + 0.5;
		const { tooNear, boxes } = stepArea([...fine, rectangle('C9', x, 0, 1, 0.5, 2), rectangle('U7', 30, 0, 0.25, 0.25, 3)], [0, 1, 3], 20);
		expect(tooNear).toEqual([]);
		expect(boxes).toHaveLength(2);
	});
});

describe('what joints need', () => {
	test('the panes of one pad share it by their areas; other parts need nothing', () => {
		const openings = [
			rectangle('J1', 0, 0, 1, 1, 4),
			rectangle('J1', 2, 0, 3, 1, 4),
			rectangle('J1', 9, 0, 2, 1, 5),
			rectangle('R1', 20, 0, 1, 1, 6)
		];
		const needs = withNeeds(openings, (refDes) => (refDes === 'J1' ? 0.4 : null)).map((o) => o.neededMm3);
		expect(needs).toEqual([expect.closeTo(0.1, 9), expect.closeTo(0.3, 9), expect.closeTo(0.4, 9), undefined]);
	});
	test('a need turns one foil into a step', () => {
		const openings = [rectangle('U2', 0, 0, 0.27, 0.27, 0), rectangle('J1', 9, 0, 2, 1.4, 1)];
		expect(chooseFoil(withNeeds(openings, () => null)).kind).toBe('single');
		expect(chooseFoil(withNeeds(openings, (r) => (r === 'J1' ? 0.34 : null)))).toMatchObject({
			kind: 'step',
			foilMm: 0.127,
			stepMm: 0.1,
			inStep: [0]
		});
	});
});
