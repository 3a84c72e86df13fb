import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
	checkSupport,
	jobToleranceUm,
	forceOnBlade,
	judgeBlade,
	judgeFirstPrints,
	judgeTension,
	paceLevers,
	pasteGPerPanel,
	printTime,
	recipeRemarks,
	refusesStencil,
	replayAdaptiveWipe,
	reprintDecision,
	sortStretched,
	startingPrintRecipe,
	strokeS,
	washPays,
	wipeAfter,
	wipeCosts,
	wipeInterval,
	wipeSPerPanel,
	type FirstPrint,
	type MisprintedPanel,
	type StencilMakeUp,
	type WipeStep
} from './index.ts';

describe('the recipe to start from', () => {
	test('the blade reaches 10 mm beyond the panel on each side, the smallest that is stocked', () => {
		fc.assert(
			fc.property(fc.double({ min: 20, max: 530, noNaN: true }), (panel) => {
				const { bladeMm } = startingPrintRecipe(panel, null);
				expect(bladeMm).toBeGreaterThanOrEqual(panel + 20);
			})
		);
		expect(startingPrintRecipe(180, null).bladeMm).toBe(200);
		expect(startingPrintRecipe(181, null).bladeMm).toBe(250);
		expect(() => startingPrintRecipe(900, null)).toThrow('panelAcrossMm');
	});

	test('fine pitch is printed slower', () => {
		expect(startingPrintRecipe(100, 0.4).speedMmPerS).toBeLessThan(startingPrintRecipe(100, 0.65).speedMmPerS);
	});

	test('it lies inside every usual range, and what lies outside is named with what it does', () => {
		const recipe = startingPrintRecipe(150, 0.5);
		expect(recipeRemarks(recipe)).toEqual([]);
		expect(recipeRemarks({ ...recipe, gapMm: 0.5, forceKgPerCm: 0.6 }).map((r) => r.field)).toEqual(['forceKgPerCm', 'gapMm']);
		expect(recipeRemarks({ ...recipe, gapMm: 0.5 })[0]!.message).toContain('excess and smear');
	});
});

describe('print time', () => {
	test('a stroke never beats its speed, and more acceleration never makes it longer (property)', () => {
		const positive = fc.double({ min: 1, max: 500, noNaN: true });
		fc.assert(
			fc.property(positive, positive, fc.double({ min: 10, max: 3000, noNaN: true }), (length, speed, acceleration) => {
				const s = strokeS(length, speed, acceleration);
				expect(s).toBeGreaterThanOrEqual(length / speed - 1e-9);
				expect(strokeS(length, speed, acceleration * 2)).toBeLessThanOrEqual(s + 1e-9);
			})
		);
	});

	test('a longer wipe that falls due with a shorter one replaces it, or comes with it', () => {
		const wipes: WipeStep[] = [
			{ kind: 'dry', everyPrints: 4, seconds: 8 },
			{ kind: 'wetVacuum', everyPrints: 12, seconds: 30 }
		];
		expect(wipeAfter(12, wipes, true).map((w) => w.kind)).toEqual(['wetVacuum']);
		expect(wipeAfter(12, wipes, false).map((w) => w.kind)).toEqual(['wetVacuum', 'dry']);
		expect(wipeAfter(8, wipes, true).map((w) => w.kind)).toEqual(['dry']);
		expect(wipeAfter(0, wipes, true)).toEqual([]);
	});

	test('the share of wipes is what counting them over many prints gives (property)', () => {
		const step = fc.record({
			kind: fc.constantFrom('dry' as const, 'wet' as const),
			everyPrints: fc.integer({ min: 1, max: 12 }),
			seconds: fc.integer({ min: 1, max: 40 })
		});
		fc.assert(
			fc.property(fc.array(step, { minLength: 1, maxLength: 3 }), fc.boolean(), (wipes, replaces) => {
				const prints = 27_720;
				let total = 0;
				for (let n = 1; n <= prints; n++) for (const w of wipeAfter(n, wipes, replaces)) total += w.seconds;
				expect(wipeSPerPanel(wipes, replaces)).toBeCloseTo(total / prints, 6);
			}),
			{ numRuns: 20 }
		);
	});

	test('the force by length of panel comes down to the blade: the total is the same', () => {
		const byPanel = { ...startingPrintRecipe(180, null), bladeMm: 250, forceKgPerCm: 0.3, forceBasis: 'panel' as const };
		const panel = { acrossMm: 180, alongMm: 150 };
		const time = printTime(byPanel, panel);
		expect(time.forceN).toBeCloseTo(0.3 * 18 * 9.807, 6);
		expect(time.forceNPerCm).toBeCloseTo(time.forceN / 25, 9);
		const byBlade = printTime({ ...byPanel, forceBasis: 'blade', forceKgPerCm: forceOnBlade(byPanel, panel.acrossMm) }, panel);
		expect(byBlade.forceN).toBeCloseTo(time.forceN, 9);
		// A larger bead needs more room before and after the print.
		expect(printTime({ ...byPanel, beadMm: 20 }, panel).strokeMm).toBeCloseTo(time.strokeMm + 8, 9);
	});

	test('each lever buys what pulling it gives, the largest first', () => {
		const recipe = startingPrintRecipe(150, null);
		const panel = { acrossMm: 180, alongMm: 150 };
		const levers = paceLevers(recipe, panel);
		expect(levers.map((l) => l.buysS)).toEqual([...levers.map((l) => l.buysS)].sort((a, b) => b - a));
		const now = printTime(recipe, panel).cycleS;
		const longer = printTime({ ...recipe, wipes: recipe.wipes.map((w) => ({ ...w, everyPrints: w.everyPrints * 2 })) }, panel).cycleS;
		expect(levers.find((l) => l.what.startsWith('Twice'))!.buysS).toBeCloseTo(now - longer, 9);
	});

	test('paste a panel grows with openings and with frequent wipes', () => {
		const every = (n: number): WipeStep[] => [{ kind: 'dry', everyPrints: n, seconds: 10 }];
		expect(pasteGPerPanel(200, 4.26, every(10))).toBeGreaterThan(pasteGPerPanel(100, 4.26, every(10)));
		expect(pasteGPerPanel(100, 4.26, every(2))).toBeGreaterThan(pasteGPerPanel(100, 4.26, every(20)));
		expect(pasteGPerPanel(100, 4.26, [])).toBeCloseTo(0.426, 9);
	});
});

describe('wipe plan', () => {
	const rows = (a: number, b: number, every: number, cycles: number) =>
		Array.from({ length: every * cycles }, (_, i) => ({ sinceWipe: i % every, meanPct: a + b * (i % every) + (i % 2 ? 0.1 : -0.1) }));

	test('no fall between wipes allows the plant’s cap, but never more than twice what was seen', () => {
		expect(wipeInterval(rows(95, 0, 6, 4), 4, 60)).toMatchObject({ allows: null, observed: 6, offer: 12 });
		expect(wipeInterval(rows(95, 0, 20, 2), 4, 60, 30).offer).toBe(30);
	});

	test('a steeper fall allows fewer prints', () => {
		const allows = [-0.3, -0.8, -2].map((b) => wipeInterval(rows(95, b, 8, 4), 4, 60).allows!);
		expect(allows[0]).toBeGreaterThan(allows[1]!);
		expect(allows[1]).toBeGreaterThan(allows[2]!);
	});

	test('too low right after a wipe: wiping cannot save it', () => {
		const advice = wipeInterval(rows(68, -0.5, 8, 4), 4, 60);
		expect(advice).toMatchObject({ allows: 0, offer: 0, verdict: { level: 'act' } });
		expect(advice.verdict.statement).toContain('Wiping cannot save');
	});

	test('an even interval comes with the advice to make one in ten odd', () => {
		expect(wipeInterval(rows(92, -0.9, 8, 3), 4, 60).verdict.doNext.join()).toContain('odd');
		expect(() => wipeInterval(rows(92, -0.9, 8, 3).slice(0, 3), 4, 60)).toThrow('at least four panels');
		expect(() => wipeInterval([...rows(92, -0.9, 8, 1), { sinceWipe: -1, meanPct: 90 }], 4, 60)).toThrow('readings[8].sinceWipe');
	});

	test('free wipes are made at once, free defects never', () => {
		const classes = [{ pads: 100, mean: 85, sigma: 7, slope: -0.8, lowestPct: 60 }];
		expect(wipeCosts(10, 0, 1, classes).best).toBe(1);
		expect(wipeCosts(10, 0.01, 0, classes).best).toBe(60);
	});

	test('a run replayed with wipes by risk keeps fewer panels below the limit where the fixed interval is too long', () => {
		const panels = Array.from({ length: 60 }, (_, i) => ({ sinceWipe: i % 20, meanPct: 90 - 1.5 * (i % 20) }));
		const replay = replayAdaptiveWipe(panels, { b: -1.5, sigma: 1.5, lowestPct: 70 }, { wipeS: 10, fixedEvery: 20 });
		expect(replay.belowFixed).toBeGreaterThan(0);
		expect(replay.belowAdaptive).toBe(0);
		expect(replay.wipesAfter.length).toBeGreaterThan(3);
	});
});

describe('support', () => {
	const panel = { widthMm: 160, heightMm: 100, thicknessMm: 1.6 };
	const grid = [20, 60, 100, 140].flatMap((x) => [33, 66].map((y) => ({ x, y, radiusMm: 2 })));

	test('a bare panel sags in its middle, pins hold it', () => {
		expect(checkSupport(panel, [], []).verdict.level).toBe('act');
		expect(checkSupport(panel, [], []).widest.mm).toBeGreaterThan(48);
		expect(checkSupport(panel, grid, []).verdict.level).toBe('good');
	});

	test('a thin panel needs more of them', () => {
		const two = [40, 120].map((x) => ({ x, y: 50, radiusMm: 2 }));
		expect(checkSupport(panel, two, []).verdict.level).toBe('act');
		const some = [20, 60, 100, 140].map((x) => ({ x, y: 50, radiusMm: 2 }));
		expect(checkSupport(panel, some, []).verdict.level).toBe('good');
		expect(checkSupport({ ...panel, thicknessMm: 0.8 }, some, []).verdict.level).toBe('act');
	});

	test('a pin under a part of the other side stops, by its name', () => {
		const { verdict, collisions } = checkSupport(panel, grid, [
			{ name: 'U4, circuit 1', box: { minX: 98, minY: 60, maxX: 110, maxY: 72 } }
		]);
		expect(collisions).toHaveLength(1);
		expect(verdict).toMatchObject({ level: 'stopped' });
		expect(verdict.statement).toContain('U4, circuit 1');
	});

	test('one more pin never makes it sag more (property)', () => {
		const pin = fc.record({ x: fc.integer({ min: 0, max: 160 }), y: fc.integer({ min: 0, max: 100 }), radiusMm: fc.constant(2) });
		fc.assert(
			fc.property(fc.array(pin, { maxLength: 6 }), pin, (pins, extra) => {
				expect(checkSupport(panel, [...pins, extra], []).widest.mm).toBeLessThanOrEqual(checkSupport(panel, pins, []).widest.mm + 1e-9);
			}),
			{ numRuns: 30 }
		);
	});
});

describe('a misprinted panel', () => {
	const fresh: MisprintedPanel = {
		washes: 0,
		finish: 'other',
		sinceFirstReflowH: null,
		partsPlacedThisSide: false,
		uncuredGlue: false,
		washSensitiveParts: false
	};

	test.each<[string, Partial<MisprintedPanel>, string, string[]]>([
		['a plain one is washed', {}, 'wash_and_reprint', []],
		['twice washed is looked at for scrap', { washes: 2 }, 'scrap_review', ['wash_limit']],
		['an OSP finish takes one wash', { washes: 1, finish: 'osp' }, 'scrap_review', ['osp_wash_limit']],
		['an OSP finish a day after its first reflow', { finish: 'osp', sinceFirstReflowH: 30 }, 'engineer_approval', ['osp_time']],
		['the same without OSP', { sinceFirstReflowH: 30 }, 'wash_and_reprint', []],
		['parts on it and wet glue', { partsPlacedThisSide: true, uncuredGlue: true }, 'engineer_approval', ['parts_placed', 'uncured_glue']],
		[
			'all at once: the gravest decides, every reason stands',
			{ washes: 2, washSensitiveParts: true },
			'scrap_review',
			['wash_limit', 'wash_sensitive_parts']
		]
	])('%s', (_, change, decision, codes) => {
		const d = reprintDecision({ ...fresh, ...change });
		expect(d.decision).toBe(decision);
		expect(d.reasons.map((r) => r.code)).toEqual(codes);
		expect(d.steps.length > 0).toBe(decision === 'wash_and_reprint');
	});

	test('a wash pays where the rework it saves costs more', () => {
		expect(washPays([{ probability: 0.6, reworkCost: 9 }], 4, 0.01, 80)).toMatchObject({ pays: true });
		expect(washPays([{ probability: 0.1, reworkCost: 9 }], 4, 0.01, 80).pays).toBe(false);
	});
});

describe('stencils and blades', () => {
	const marks = [
		{ x: 3, y: 3 },
		{ x: 115, y: 3 },
		{ x: 110, y: 87 }
	];
	const stencil: StencilMakeUp = {
		code: 'S-014',
		board: 'Frost sensor',
		revision: 'C',
		side: 'top',
		circuits: 4,
		fiducials: marks,
		foilUm: 100,
		state: 'usable',
		damage: null
	};
	const job = { board: 'Frost sensor', revision: 'C', side: 'top' as const, circuits: 4, fiducials: marks, foilUm: 100 };
	const codes = (s: Partial<StencilMakeUp>, j: Partial<typeof job> = {}) =>
		refusesStencil({ ...stencil, ...s }, { ...job, ...j }).map((r) => r.code);

	test('the right one is taken; each wrong one says why and what to fetch', () => {
		expect(codes({})).toEqual([]);
		expect(codes({ board: 'Tram door' })).toEqual(['wrong_board']);
		expect(codes({ revision: 'B' })).toEqual(['wrong_revision']);
		expect(codes({ side: 'bottom' })).toEqual(['wrong_side']);
		expect(codes({ circuits: 2 })).toEqual(['wrong_panel']);
		expect(codes({ foilUm: 120 })).toEqual(['wrong_foil']);
		expect(codes({ state: 'blocked', damage: 'dent' })).toEqual(['not_usable']);
		expect(codes({ fiducials: marks.map((m) => ({ x: m.x + 1, y: m.y })) })).toEqual(['wrong_marks']);
		expect(refusesStencil({ ...stencil, revision: 'B' }, job)[0]!.fix).toContain('revision C');
	});

	test('tension: too few points is no data, a slack corner stops, an uneven foil is watched', () => {
		const at = (values: number[]) => values.map((nPerCm, i) => ({ x: i, y: 0, nPerCm }));
		expect(judgeTension(at([38, 39, 40])).level).toBe('noData');
		expect(judgeTension(at([38, 39, 40, 38, 37])).level).toBe('good');
		expect(judgeTension(at([38, 39, 40, 38, 29])).level).toBe('stopped');
		expect(judgeTension(at([36, 39, 48, 38, 37])).level).toBe('watch');
		expect(judgeTension(at([31, 32, 33, 32, 31])).level).toBe('watch');
	});

	test('a blade by its strokes, and at once with a nick', () => {
		expect([5_000, 20_000, 40_000].map((n) => judgeBlade(n, false).level)).toEqual(['good', 'watch', 'act']);
		expect(judgeBlade(10, true).level).toBe('act');
	});
});

describe('first prints', () => {
	const good: FirstPrint = { alignment: 'ok', panel: 'P1', pads: 400, fails: 0, warnings: 2, meanVolumePct: 96, offsetUm: 8 };
	test.each<[string, FirstPrint[], string]>([
		['none yet', [], 'noData'],
		['one of two', [good], 'watch'],
		['two in order', [good, { ...good, panel: 'P2' }], 'good'],
		['the second fails', [good, { ...good, fails: 3 }], 'act'],
		['not aligned', [good, { ...good, alignment: 'mirrored' }], 'stopped'],
		['the level is wrong', [good, { ...good, meanVolumePct: 60 }], 'act'],
		['off its place', [good, { ...good, offsetUm: 40 }], 'act'],
		['a bad one, then two good ones', [{ ...good, fails: 3 }, good, good], 'good']
	])('%s', (_, prints, level) => {
		expect(judgeFirstPrints(prints, 25).level).toBe(level);
	});

	test('the tolerance of a job is that of its finest part', () => {
		expect(jobToleranceUm([])).toBe(50);
		expect(jobToleranceUm([{ padWidthMm: 0.25, pitchMm: 0.5 }])).toBe(50);
		expect(jobToleranceUm([{ padWidthMm: 0.2, pitchMm: 0.4 }])).toBe(25);
	});
});

test('stretched boards: every board is within tolerance of its stencil, and no fewer stencils would do (property)', () => {
	fc.assert(
		fc.property(fc.array(fc.integer({ min: -400, max: 400 }), { minLength: 1, maxLength: 12 }), (ppm) => {
			const [rMax, tol] = [140, 14];
			const groups = sortStretched(ppm, rMax, tol);
			expect(groups.flatMap((g) => g.boards).sort((a, b) => a - b)).toEqual(ppm.map((_, i) => i));
			for (const g of groups)
				for (const i of g.boards) expect((Math.abs(ppm[i]! - g.scalePpm) * rMax) / 1000).toBeLessThanOrEqual(tol + 1e-9);
			// Boards further apart than a stencil reaches need one each: that many pairwise-distant boards is a proof of the lower bound.
			let apart = 0;
			let last = -Infinity;
			for (const v of [...ppm].sort((a, b) => a - b)) if (v - last > (2 * tol * 1000) / rMax + 1e-9) [apart, last] = [apart + 1, v];
			expect(groups).toHaveLength(apart);
		})
	);
});
