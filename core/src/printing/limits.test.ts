import { describe, expect, test } from 'vitest';
import {
	bladeForceN,
	checkSupport,
	forceOnBlade,
	judgeBlade,
	judgeFirstPrints,
	judgeLeftStencil,
	judgePrintedAgain,
	judgeTension,
	pasteGPerPanel,
	paceLevers,
	PIN_CLEARANCE_MM,
	printTime,
	RECIPE_GUIDE,
	recipeRemarks,
	reprintDecision,
	stepsBeforePrint,
	startingPrintRecipe,
	strokeLengthMm,
	strokeS,
	washPays,
	wipeAfter,
	wipeCosts,
	wipeInterval,
	wipeSPerPanel,
	type FirstPrint,
	type MisprintedPanel,
	type PrintRecipe
} from './index.ts';

// Both sides of every limit: what is still allowed, and what no longer is.

describe('tension of a foil, N/cm', () => {
	const even = (nPerCm: number, points = 5) => Array.from({ length: points }, (_, i) => ({ x: i, y: i, nPerCm }));
	const spread = (low: number, high: number) => [...even(low, 4), { x: 9, y: 9, nPerCm: high }];

	test.each([
		[29.9, 'stopped'],
		[30, 'watch'],
		[32.9, 'watch'],
		[33, 'good'],
		[40, 'good']
	])('%f everywhere is %s', (nPerCm, level) => {
		expect(judgeTension(even(nPerCm)).level).toBe(level);
	});

	test.each([
		[35, 45, 'good'],
		[35, 45.1, 'watch'],
		[29, 50, 'stopped']
	])('from %f to %f is %s', (low, high, level) => {
		expect(judgeTension(spread(low, high)).level).toBe(level);
	});

	test('five points are needed; a plant’s own least counts', () => {
		expect(judgeTension(even(40, 4))).toMatchObject({ level: 'noData', statement: 'Tension: 4 of 5 points measured.' });
		expect(judgeTension(even(34), 35).level).toBe('stopped');
		expect(judgeTension(even(37), 35).level).toBe('watch');
		expect(judgeTension(even(38), 35).level).toBe('good');
	});

	test('uneven and close to the limit are told apart', () => {
		expect(judgeTension(spread(35, 46)).statement).toContain('uneven');
		expect(judgeTension(even(31)).statement).toContain('close to the limit');
	});
});

test.each([
	[19_999, false, 'good'],
	[20_000, false, 'watch'],
	[39_999, false, 'watch'],
	[40_000, false, 'act'],
	[0, true, 'act']
])('a blade of %d strokes, nicked %s, is %s', (strokes, nicked, level) => {
	expect(judgeBlade(strokes, nicked).level).toBe(level);
});

describe('first prints', () => {
	const print = (more: Partial<FirstPrint> = {}): FirstPrint => ({
		alignment: 'ok',
		panel: 'P-1',
		pads: 100,
		fails: 0,
		warnings: 0,
		meanVolumePct: 100,
		offsetUm: 0,
		...more
	});
	const level = (more: Partial<FirstPrint>) => judgeFirstPrints([print(), print(more)], 50).level;

	test.each<[Partial<FirstPrint>, string]>([
		[{}, 'good'],
		[{ alignment: null }, 'good'],
		[{ alignment: 'stretched' }, 'stopped'],
		[{ fails: 1 }, 'act'],
		[{ warnings: 9 }, 'good'],
		[{ meanVolumePct: 75 }, 'good'],
		[{ meanVolumePct: 74.9 }, 'act'],
		[{ meanVolumePct: 125 }, 'good'],
		[{ meanVolumePct: 125.1 }, 'act'],
		[{ offsetUm: 50 }, 'good'],
		[{ offsetUm: 50.1 }, 'act']
	])('%o is %s', (more, expected) => {
		expect(level(more)).toBe(expected);
	});

	test('only the latest two count, and one is too few', () => {
		expect(judgeFirstPrints([print({ fails: 3 }), print(), print()], 50).level).toBe('good');
		expect(judgeFirstPrints([print(), print({ fails: 3 }), print()], 50).level).toBe('act');
		expect(judgeFirstPrints([print()], 50)).toMatchObject({ level: 'watch', statement: '1 of 2 first prints are in order.' });
		expect(judgeFirstPrints([], 50).level).toBe('noData');
	});
});

describe('a misprinted panel', () => {
	const panel = (more: Partial<MisprintedPanel> = {}): MisprintedPanel => ({
		washes: 0,
		finish: 'other',
		sinceFirstReflowH: null,
		partsPlacedThisSide: false,
		uncuredGlue: false,
		washSensitiveParts: false,
		...more
	});

	test.each<[Partial<MisprintedPanel>, string]>([
		[{}, 'wash_and_reprint'],
		[{ washes: 1 }, 'wash_and_reprint'],
		[{ washes: 2 }, 'scrap_review'],
		[{ finish: 'osp' }, 'wash_and_reprint'],
		[{ finish: 'osp', washes: 1 }, 'scrap_review'],
		[{ finish: 'osp', sinceFirstReflowH: 24 }, 'wash_and_reprint'],
		[{ finish: 'osp', sinceFirstReflowH: 24.1 }, 'engineer_approval'],
		[{ sinceFirstReflowH: 400 }, 'wash_and_reprint'],
		[{ partsPlacedThisSide: true }, 'engineer_approval'],
		[{ uncuredGlue: true }, 'engineer_approval'],
		[{ washSensitiveParts: true }, 'engineer_approval'],
		[{ washes: 2, uncuredGlue: true }, 'scrap_review']
	])('%o: %s', (more, decision) => {
		const answer = reprintDecision(panel(more));
		expect(answer.decision).toBe(decision);
		expect(answer.steps.length).toBe(decision === 'wash_and_reprint' ? 5 : 0);
	});

	test('which wash it would be is said, by the finish', () => {
		expect(reprintDecision(panel({ washes: 1 })).statement).toContain('wash 2 of 2');
		expect(reprintDecision(panel({ finish: 'osp' })).statement).toContain('wash 1 of 1');
		expect(reprintDecision(panel({ washes: 2, partsPlacedThisSide: true })).reasons.map((r) => r.code)).toEqual([
			'wash_limit',
			'parts_placed'
		]);
	});

	test('a wash pays from the first cent that it saves, not before', () => {
		const defects = [
			{ probability: 0.5, reworkCost: 8 },
			{ probability: 0.1, reworkCost: 20 }
		];
		expect(washPays(defects, 4, 0.02, 100)).toEqual({ pays: false, without: 6, withWash: 6 });
		expect(washPays(defects, 3.99, 0.02, 100).pays).toBe(true);
		expect(() => washPays([{ probability: 1.01, reworkCost: 1 }], 1, 0, 1)).toThrow('defects[0].probability');
		expect(() => washPays([], -1, 0, 1)).toThrow('washCost');
		expect(() => washPays([], 1, 1.1, 1)).toThrow('damageProbability');
	});
});

describe('support', () => {
	const panel = (heightMm: number, thicknessMm = 1.6) => ({ widthMm: 100, heightMm, thicknessMm });

	test('35 mm from any support prints level on 1.6 mm, a little more sags', () => {
		expect(checkSupport(panel(70), [], []).verdict.level).toBe('good');
		expect(checkSupport(panel(74), [], []).verdict.level).toBe('act');
	});

	test('half the thickness carries 0.595 of the span', () => {
		expect(checkSupport(panel(41, 0.8), [], []).verdict.level).toBe('good');
		expect(checkSupport(panel(43.5, 0.8), [], []).verdict.level).toBe('act');
	});

	test('a pin keeps 1 mm clear of a part, measured from its rim', () => {
		const box = { minX: 50, maxX: 60, minY: 30, maxY: 40 };
		const pinAt = (x: number) => checkSupport(panel(60), [{ x, y: 35, radiusMm: 2 }], [{ name: 'U1', box }]);
		expect(pinAt(50 - 2 - PIN_CLEARANCE_MM).collisions).toEqual([]);
		const touching = pinAt(50 - 2 - PIN_CLEARANCE_MM + 0.01);
		expect(touching.collisions).toHaveLength(1);
		expect(touching.verdict).toMatchObject({ level: 'stopped', statement: 'Pin 1 stands under U1: it would crush it.' });
		expect(() => checkSupport(panel(60, 0.1), [], [])).toThrow('thicknessMm');
	});
});

describe('print time', () => {
	const recipe: PrintRecipe = { ...startingPrintRecipe(118, null), speedMmPerS: 40, accelerationMmPerS2: 200 };

	test('a stroke of 100 mm at 40 mm/s: 8 mm of ramps, the rest at speed', () => {
		// 2·40/200 + (100 − 8)/40
		expect(strokeS(100, 40, 200)).toBeCloseTo(0.4 + 2.3, 12);
		// Exactly the ramps, and shorter than them: a triangle.
		expect(strokeS(8, 40, 200)).toBeCloseTo(0.4, 12);
		expect(strokeS(2, 40, 200)).toBeCloseTo(2 * Math.sqrt(0.01), 12);
	});

	test('the stroke runs in and off by the bead and 10 mm at each end', () => {
		expect(strokeLengthMm(90, 16)).toBe(142);
	});

	test('the parts of a cycle add up', () => {
		const t = printTime(recipe, { acrossMm: 118, alongMm: 90 });
		expect(t.strokeMm).toBe(142);
		expect(t.separationS).toBe(1);
		expect(t.wipeS).toBe(3.5);
		expect(t.cycleS).toBeCloseTo(8 + 2 + t.strokeS + 1 + 3.5, 12);
		expect(printTime({ ...recipe, strokes: 2 }, { acrossMm: 118, alongMm: 90 }).cycleS).toBeCloseTo(t.cycleS + t.strokeS, 12);
	});

	test('0.2 kg/cm on a blade of 150 mm are 29.4 N; by the panel they are those of the panel', () => {
		expect(bladeForceN(0.2, 150)).toBeCloseTo(29.421, 9);
		expect(forceOnBlade({ forceKgPerCm: 0.3, forceBasis: 'panel', bladeMm: 150 }, 100)).toBeCloseTo(0.2, 12);
		expect(forceOnBlade({ forceKgPerCm: 0.3, forceBasis: 'blade', bladeMm: 150 }, 100)).toBe(0.3);
		expect(printTime(recipe, { acrossMm: 118, alongMm: 90 }).forceNPerCm).toBeCloseTo(1.9614, 9);
	});

	test('wipes: the longer replaces the shorter where both fall due, or both are made', () => {
		const wipes = [
			{ kind: 'dry' as const, everyPrints: 4, seconds: 8 },
			{ kind: 'wet' as const, everyPrints: 6, seconds: 30 }
		];
		// In 12 prints: dry at 4 and 8, wet at 6 and 12.
		expect(wipeSPerPanel(wipes, true)).toBeCloseTo((8 + 30 + 8 + 30) / 12, 12);
		expect(wipeSPerPanel(wipes, false)).toBeCloseTo(2 + 5, 12);
		expect(wipeSPerPanel([], true)).toBe(0);
		expect(wipeAfter(12, wipes, true).map((w) => w.kind)).toEqual(['wet']);
		expect(wipeAfter(12, wipes, false).map((w) => w.kind)).toEqual(['wet', 'dry']);
		expect(wipeAfter(0, wipes, false)).toEqual([]);
		expect(wipeAfter(5, wipes, false)).toEqual([]);
		expect(() => wipeSPerPanel([{ kind: 'dry', everyPrints: 0, seconds: 1 }], true)).toThrow('everyPrints');
		expect(() => wipeSPerPanel([{ kind: 'dry', everyPrints: 1001, seconds: 1 }], true)).toThrow('everyPrints');
		expect(wipeSPerPanel([{ kind: 'dry', everyPrints: 1000, seconds: 600 }], true)).toBeCloseTo(0.6, 12);
	});

	test('each lever buys what it says: twice the interval halves the wipes', () => {
		const levers = paceLevers(recipe, { acrossMm: 118, alongMm: 90 });
		expect(levers.find((l) => l.what.startsWith('Twice'))!.buysS).toBeCloseTo(1.75, 9);
		expect(levers.find((l) => l.what.startsWith('Separate'))!.buysS).toBeCloseTo(0.5, 9);
		expect(levers.map((l) => l.buysS)).toEqual([...levers.map((l) => l.buysS)].sort((a, b) => b - a));
		// What buys next to nothing is not offered.
		expect(paceLevers({ ...recipe, separationMm: 0.1 }, { acrossMm: 118, alongMm: 90 }).some((l) => l.what.startsWith('Separate'))).toBe(
			false
		);
	});
});

describe('the recipe to start from', () => {
	test.each([
		[130, 150],
		[130.1, 200],
		[180, 200],
		[530, 550]
	])('a panel of %f mm takes a blade of %d mm', (acrossMm, bladeMm) => {
		expect(startingPrintRecipe(acrossMm, null).bladeMm).toBe(bladeMm);
	});

	test('a panel that no stocked blade covers is refused; fine pitch prints at 30 mm/s up to 0.4 mm', () => {
		expect(() => startingPrintRecipe(530.1, null)).toThrow('panelAcrossMm');
		expect(startingPrintRecipe(100, 0.4).speedMmPerS).toBe(30);
		expect(startingPrintRecipe(100, 0.401).speedMmPerS).toBe(40);
	});

	test.each(Object.entries(RECIPE_GUIDE))(
		'%s: both ends of the usual range are usual, beyond them a remark names it',
		(field, { low, high }) => {
			const start = startingPrintRecipe(118, null);
			const remarks = (value: number) => recipeRemarks({ ...start, [field]: value }).map((r) => r.field);
			expect(remarks(low)).toEqual([]);
			expect(remarks(high)).toEqual([]);
			expect(remarks(high + 0.01)).toEqual([field]);
			expect(remarks(low - 0.01)).toEqual([field]);
		}
	);
});

describe('wipes from the drift', () => {
	const falling = (slope: number, counts = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9]) =>
		counts.map((sinceWipe) => ({ sinceWipe, meanPct: 100 + slope * sinceWipe }));

	test('without noise the interval is the room over the slope, and one more', () => {
		// (100 − 3·5 − 60)/0.98 = 25.5, so 26 prints; twice what was seen is 20.
		const advice = wipeInterval(falling(-0.98), 5, 60);
		expect(advice).toMatchObject({ allows: 26, observed: 10, offer: 20 });
		expect(advice.a).toBeCloseTo(100, 9);
		expect(advice.b).toBeCloseTo(-0.98, 9);
		expect(wipeInterval(falling(-1), 5, 60, 15).offer).toBe(15);
	});

	test('an interval shorter than what was seen asks for an act', () => {
		expect(wipeInterval(falling(-3), 5, 60)).toMatchObject({ allows: 9, observed: 10, verdict: { level: 'act' } });
		expect(wipeInterval(falling(-2.4), 5, 60)).toMatchObject({ allows: 11, verdict: { level: 'good' } });
	});

	test('no room right after a wipe: no interval helps', () => {
		expect(wipeInterval(falling(-1), 14, 60)).toMatchObject({ allows: 0, offer: 0, verdict: { level: 'act' } });
		expect(wipeInterval(falling(-1), 12.9, 60).allows).toBe(2);
	});

	test('four panels are needed, with counters that are counters', () => {
		expect(() => wipeInterval(falling(-1, [0, 1, 2]), 5, 60)).toThrow('at least four panels');
		expect(() => wipeInterval([...falling(-1), { sinceWipe: -1, meanPct: 90 }], 5, 60)).toThrow('readings[10].sinceWipe');
		expect(() => wipeInterval([...falling(-1), { sinceWipe: 1.5, meanPct: 90 }], 5, 60)).toThrow('readings[10].sinceWipe');
		expect(() => wipeInterval([...falling(-1), { sinceWipe: 1, meanPct: NaN }], 5, 60)).toThrow('readings[10].meanPct');
	});

	test('the cheapest interval weighs the wipe against the pads that fall below', () => {
		const pads = { pads: 100, mean: 80, sigma: 10, slope: -2, lowestPct: 60 };
		const { best, costs } = wipeCosts(10, 0.1, 0.05, [pads], 20);
		expect(costs).toHaveLength(20);
		// One print: the wipe, and Φ(−2) of a hundred pads.
		expect(costs[0]).toBeCloseTo(10 * 0.1 + 0.05 * 100 * 0.0227501, 5);
		expect(costs[best - 1]).toBe(Math.min(...costs));
		expect(wipeCosts(10, 0.1, 5, [pads], 20).best).toBeLessThan(best);
	});
});

test('paste a panel: what the openings deliver, a share of the wipe, a share of the ends', () => {
	const wipes = [
		{ kind: 'dry' as const, everyPrints: 5, seconds: 1 },
		{ kind: 'wet' as const, everyPrints: 20, seconds: 1 }
	];
	expect(pasteGPerPanel(500, 4, [])).toBeCloseTo(2, 12);
	expect(pasteGPerPanel(500, 4, wipes)).toBeCloseTo(2 + 0.2 / 5, 12);
	expect(pasteGPerPanel(500, 4, wipes, 0.3, 20, 100)).toBeCloseTo(2 + 0.06 + 0.2, 12);
});

test('a panel that was finished and is printed again is an act, and named; several are counted', () => {
	expect(judgePrintedAgain([])).toBeNull();
	expect(judgePrintedAgain(['J-1-0004'])).toMatchObject({
		level: 'act',
		statement: 'J-1-0004 was finished before and is printed again.',
		because: [{ value: 1, unit: 'panel' }],
		doNext: ['Take J-1-0004 off and find out which panel it is']
	});
	expect(judgePrintedAgain(['J-1-0004', 'J-1-0009', 'J-1-0010'])).toMatchObject({
		statement: 'J-1-0004 and 2 more were finished before and are printed again.',
		because: [{ value: 3, unit: 'panels' }]
	});
});

test('a stencil that stands in the printer after its run is to be washed, until it was washed since its last print', () => {
	expect(judgeLeftStencil('S-1', null, null)).toBeNull();
	expect(judgeLeftStencil('S-1', 500, 500)).toBeNull();
	expect(judgeLeftStencil('S-1', 500, 499)).toMatchObject({ level: 'watch', doNext: ['Take S-1 out and wash it'] });
	expect(judgeLeftStencil('S-1', 500, null)?.statement).toBe('S-1 stands in the printer and was not washed since its last print.');
});

test('a panel is printed again after the three steps of its wash; where it is not washed there are none', () => {
	const panel = {
		washes: 0,
		finish: 'other' as const,
		sinceFirstReflowH: null,
		partsPlacedThisSide: false,
		uncuredGlue: false,
		washSensitiveParts: false
	};
	const { steps } = reprintDecision(panel);
	expect(stepsBeforePrint(steps)).toBe(3);
	expect(steps[3]).toBe('Print again');
	expect(stepsBeforePrint(reprintDecision({ ...panel, washes: 2 }).steps)).toBe(0);
});
