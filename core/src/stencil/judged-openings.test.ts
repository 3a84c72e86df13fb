import { describe, expect, test } from 'vitest';
import { notJudged, openingsJudge, STENCIL_RULES, DEFAULT_TRANSFER, type LayerOpening, type OpeningsTask } from './index.ts';

const opening = (x: number, sideMm: number, refDes: string): LayerOpening => ({
	outline: [
		{ x: x - sideMm / 2, y: -sideMm / 2 },
		{ x: x + sideMm / 2, y: -sideMm / 2 },
		{ x: x + sideMm / 2, y: sideMm / 2 },
		{ x: x - sideMm / 2, y: sideMm / 2 }
	],
	centre: { x, y: 0 },
	shape: 'rectangle',
	areaMm2: sideMm * sideMm,
	perimeterMm: 4 * sideMm,
	widthMm: sideMm,
	lengthMm: sideMm,
	refDes,
	pin: null,
	padClass: 'chip'
});
const layer = [opening(0, 0.5, 'R1'), opening(0.65, 0.5, 'R2'), opening(5, 0.3, 'R3')];
const rules = Object.fromEntries(Object.keys(STENCIL_RULES).map((c) => [c, { kind: 'asDrawn' }])) as unknown as OpeningsTask['rules'];
const task = (more: Partial<OpeningsTask> = {}): OpeningsTask => ({
	rules,
	needs: [],
	lowPct: { chip: 60 },
	foilMm: 0.1,
	wall: 'laser',
	model: DEFAULT_TRANSFER,
	taperUm: null,
	factors: {},
	measured: { from: 0.1, to: 5 },
	view: 'layer',
	foilsMm: [0.08, 0.1],
	selected: null,
	...more
});
const judge = (more: Partial<OpeningsTask> = {}) => openingsJudge(layer, ['A', 'B', 'C'])(task(more));

describe('the openings of a layer under its rules', () => {
	test('the worst of web, foil and length is the verdict; the narrowest opening is named for the powder', () => {
		const { results, verdict, narrowestUm, narrowestCircleUm, openings, boxes, alternatives, critical } = judge();
		// 0.15 mm between the first two.
		expect(results).toEqual(['marginal', 'marginal', 'pass']);
		expect(verdict).toMatchObject({ level: 'watch' });
		expect(verdict.statement).toContain('under the advised 0.20 mm');
		expect([narrowestUm, narrowestCircleUm]).toEqual([expect.closeTo(300, 9), null]);
		expect(openings).toHaveLength(3);
		expect([boxes, alternatives, critical]).toEqual([[], [], []]);
	});

	test('a circle’s own narrowest is kept apart: powder passes a slot sooner', () => {
		const round = { ...opening(0, 0.28, 'R1'), shape: 'circle' };
		expect(openingsJudge([round, opening(5, 0.3, 'R3')], ['A', 'B'])(task())).toMatchObject({
			narrowestUm: expect.closeTo(280, 9),
			narrowestCircleUm: expect.closeTo(280, 9)
		});
	});

	test('a joint that needs more than one foil gives has a step, drawn around the small openings', () => {
		const far = [opening(0, 0.25, 'U1'), opening(20, 1, 'J1')];
		const { boxes, verdict } = openingsJudge(far, ['U1', 'J1'])(task({ needs: [{ refDes: 'J1', neededMm3: 0.112 }] }));
		expect(boxes).toHaveLength(1);
		expect(boxes[0]!.minX).toBeLessThan(-0.125);
		expect(verdict.statement).toContain('with a step down to');
	});

	test('only what is looked at is computed', () => {
		expect(judge({ view: 'alternatives' }).alternatives.length).toBeGreaterThan(5);
		const { critical } = judge({ view: 'foil', selected: 1 });
		expect(critical.map((c) => c.name)).toEqual(['B', 'C']);
		expect(critical[0]!.delivered).toHaveLength(2);
		expect(judge({ view: 'foil', measured: null }).critical[0]!.delivered).toEqual([null, null]);
	});

	test('a lower limit means fewer pads short; without one of its class it is 60 %', () => {
		const high = judge({ lowPct: { chip: 90 } }).shortPads;
		expect(judge({ lowPct: { chip: 50 } }).shortPads).toBeLessThan(high);
		expect(judge({ lowPct: {} }).shortPads).toBeCloseTo(judge().shortPads, 12);
	});

	test('a rule that cannot be followed is said and the layer stays; an empty layer is no verdict', () => {
		const judgeAgain = openingsJudge(layer, ['A', 'B', 'C']);
		const bad = judgeAgain(task({ rules: { ...rules, chip: { kind: 'reduce', widthPct: 90, lengthPct: 0 } } }));
		expect(bad.verdict).toMatchObject({ level: 'noData', statement: expect.stringContaining('chip.widthPct') });
		expect(judgeAgain(task()).openings).toHaveLength(3);
		expect(openingsJudge([], [])(task())).toEqual(notJudged('This layer has no openings.'));
	});
});
