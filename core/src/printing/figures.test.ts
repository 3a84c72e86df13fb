import { describe, expect, test } from 'vitest';
import { rotate, type Point } from '../geometry/index.ts';
import { leastSquares, normalCdf, studentQuantile } from '../numerics/index.ts';
import {
	align,
	checkSupport,
	fitAlignment,
	jobToleranceUm,
	judgeBlade,
	judgeFirstPrints,
	judgeTension,
	readTrial,
	replayAdaptiveWipe,
	rescuedByScaling,
	sortStretched,
	wipeInterval,
	type TrialPanel
} from './index.ts';

const MARKS: Point[] = [
	{ x: 0, y: 0 },
	{ x: 200, y: 0 },
	{ x: 200, y: 100 },
	{ x: 0, y: 100 }
];
const MIDDLE = { x: 100, y: 50 };
const R = 100;
const moved = (more: (p: Point, i: number) => Point) => MARKS.map(more);
const code = (board: Point[], marks = MARKS) => fitAlignment(marks, board, MIDDLE, R).code;

describe('what the marks say of a board', () => {
	test('stretch along, across and shear apart, ppm, whatever the turn', () => {
		for (const deg of [0, 0.7, -1.3]) {
			// 300 ppm along x, −100 along y, and 80 of shear shared by both.
			const board = moved((p) => {
				const [u, v] = [p.x - 100, p.y - 50];
				const q = rotate({ x: u * 1.0003 + v * 0.00008, y: v * 0.9999 + u * 0.00008 }, deg);
				return { x: q.x + 100.2, y: q.y + 50.1 };
			});
			const f = fitAlignment(MARKS, board, MIDDLE, R);
			expect([f.xPpm, f.yPpm, f.shearPpm]).toEqual([expect.closeTo(300, 3), expect.closeTo(-100, 3), expect.closeTo(80, 3)]);
		}
	});

	test('of two marks, or of marks on one line, nothing is said across', () => {
		const two = fitAlignment(MARKS.slice(0, 2), MARKS.slice(0, 2), MIDDLE, R);
		expect([two.xPpm, two.yPpm, two.shearPpm, two.freedom]).toEqual([null, null, null, 1]);
		const line = [0, 50, 150].map((x) => ({ x, y: x / 2 }));
		expect(fitAlignment(line, line, MIDDLE, R)).toMatchObject({ xPpm: null, freedom: 3 });
	});

	test('a stretch is proven from three standard errors of its readings on', () => {
		// Sum of squares about the middle: 4 · (100² + 50²) = 50 000; 5 µm of reading make 22.36 ppm.
		const of = (ppm: number) =>
			fitAlignment(
				MARKS,
				moved((p) => ({ x: 100 + (p.x - 100) * (1 + ppm * 1e-6), y: 50 + (p.y - 50) * (1 + ppm * 1e-6) })),
				MIDDLE,
				R
			);
		expect(of(100).stretchStandardErrorPpm).toBeCloseTo((0.005 / Math.sqrt(50_000)) * 1e6, 6);
		expect([of(67).stretchProven, of(-67.1).stretchProven, of(67.1).stretchProven]).toEqual([false, true, true]);
		expect(of(200)).toMatchObject({ stretchPpm: expect.closeTo(200, 3), stretchUm: expect.closeTo(20, 3) });
		expect(of(-200).worstPadUm).toBeCloseTo(Math.hypot(20, of(-200).rmsUm / 2), 3);
	});

	test('residuals of each mark, µm: one mark that is off by 40 leaves 30 there', () => {
		const f = fitAlignment(
			MARKS,
			moved((p, i) => ({ x: p.x + (i === 2 ? 0.04 : 0), y: p.y })),
			MIDDLE,
			R
		);
		expect(f.residuals.map((r) => Math.round(r.dxUm))).not.toEqual([0, 0, 0, 0]);
		expect(f.maxUm).toBeCloseTo(Math.max(...f.residuals.map((r) => r.lengthUm)), 9);
		expect(f.rmsUm).toBeCloseTo(Math.sqrt(f.residuals.reduce((s, r) => s + r.lengthUm ** 2, 0) / 4), 9);
	});

	test('how far the stage may go: 5 mm and 2°, either way', () => {
		const shift = (x: number, y: number) => code(moved((p) => ({ x: p.x + x, y: p.y + y })));
		expect([shift(4.99, 0), shift(-4.99, 4.99), shift(5.01, 0), shift(-5.01, 0), shift(0, 5.01), shift(0, -5.01)]).toEqual([
			'ok',
			'ok',
			'travel',
			'travel',
			'travel',
			'travel'
		]);
		const turned = (deg: number) =>
			code(
				moved((p) => {
					const q = rotate({ x: p.x - 100, y: p.y - 50 }, deg);
					return { x: q.x + 100, y: q.y + 50 };
				})
			);
		expect([turned(1.99), turned(-1.99), turned(2.01), turned(-2.01), turned(174.9), turned(175.1), turned(-175.1)]).toEqual([
			'ok',
			'ok',
			'travel',
			'travel',
			'travel',
			'backwards',
			'backwards'
		]);
	});

	test('25 µm of stretch at the farthest opening is allowed, more is not', () => {
		const grown = (ppm: number) => code(moved((p) => ({ x: 100 + (p.x - 100) * (1 + ppm * 1e-6), y: 50 + (p.y - 50) * (1 + ppm * 1e-6) })));
		// The corners lie 111.8 mm from the middle: they miss by more than the farthest opening would.
		expect([grown(220), grown(251), grown(-251)]).toEqual(['ok', 'stretch', 'stretch']);
	});

	test('one mark of four is suspect where the others fit without it; of three none can be told', () => {
		const off = (i: number) => moved((p, k) => ({ x: p.x + (k === i ? 0.2 : 0), y: p.y }));
		for (const i of [0, 1, 2, 3]) expect(fitAlignment(MARKS, off(i), MIDDLE, R)).toMatchObject({ code: 'fiducial_suspect', suspect: i });
		expect(code(off(1).slice(0, 3), MARKS.slice(0, 3))).not.toBe('fiducial_suspect');
		// Twisted: no mark alone explains it.
		expect(code(moved((p, i) => ({ x: p.x + (i % 2 ? 0.06 : -0.06), y: p.y })))).toBe('residual_high');
	});

	test('only a mirror image that fits is the wrong side', () => {
		expect(code(moved((p) => ({ x: 200 - p.x, y: p.y })))).toBe('mirrored');
		expect(code(moved((p) => ({ x: 200 - p.x, y: p.y })).slice(0, 3), MARKS.slice(0, 3))).toBe('mirrored');
	});

	test('every verdict in words, with what to do', () => {
		const say = (board: Point[]) => align(MARKS, board, MIDDLE, R).verdict;
		expect(say(MARKS)).toMatchObject({ level: 'good', statement: 'Aligned; the farthest opening is off by about 0 µm.', doNext: [] });
		expect(say(moved((p) => ({ x: 200 - p.x, y: p.y })))).toMatchObject({ level: 'stopped', doNext: ['Compare stencil, side and panel'] });
		expect(say(moved((p) => ({ x: 200 - p.x, y: 100 - p.y })))).toMatchObject({ level: 'stopped', doNext: ['Turn the panel round'] });
		expect(say(moved((p, k) => ({ x: p.x + (k === 2 ? 0.2 : 0), y: p.y })))).toMatchObject({
			statement: 'Mark 3 is suspect: without it the others fit.',
			doNext: ['Look at mark 3: misread, damaged, or paste on it']
		});
		const stretched = (ppm: number) =>
			say(moved((p) => ({ x: 100 + (p.x - 100) * (1 + ppm * 1e-6), y: 50 + (p.y - 50) * (1 + ppm * 1e-6) })));
		expect(stretched(300).statement).toBe(
			'This board is larger than the stencil by 300 ppm, 30 µm at the farthest opening: no move of the stage cures it.'
		);
		expect(stretched(-300).statement).toContain('smaller than the stencil by 300 ppm');
		expect(stretched(300).doNext).toEqual(['Sort these boards: they are stretched', 'Measure more boards of the lot']);
		expect(say(moved((p, i) => ({ x: p.x + (i % 2 ? 0.06 : -0.06), y: p.y })))).toMatchObject({
			statement: expect.stringMatching(/^The marks miss by up to \d+ µm: warp, shear or a bad clamp\.$/),
			doNext: ['Clamp the panel again', 'Check the support']
		});
		const [move, residual, stretch] = say(MARKS).because;
		expect(move).toMatchObject({
			quantity: 'Move of the stencil about the stage centre',
			value: '0.000, 0.000 mm, 0.0000°',
			limit: '5 mm, 2°'
		});
		expect(residual).toMatchObject({ value: expect.closeTo(0, 6), formula: expect.stringMatching(/over 4 marks, 5 to spare$/) });
		expect(stretch!.formula).toContain('(not proven: within three standard errors)');
		const two = align(MARKS.slice(0, 2), MARKS.slice(0, 2), MIDDLE, R).verdict.because[1]!;
		expect(two.formula).toContain('1 to spare: only the distance of the two marks is checked');
	});

	test('readings that are none are named by mark', () => {
		expect(() =>
			fitAlignment(
				MARKS,
				moved((p, i) => (i === 1 ? { x: NaN, y: 0 } : p)),
				MIDDLE,
				R
			)
		).toThrow('board[1]');
		expect(() =>
			fitAlignment(
				moved((p, i) => (i === 2 ? { x: 1, y: Infinity } : p)),
				MARKS,
				MIDDLE,
				R
			)
		).toThrow('stencil[2]');
		const close = [
			{ x: 0, y: 0 },
			{ x: 12, y: 16 }
		];
		expect(fitAlignment(close, close, MIDDLE, R).code).toBe('ok');
		const closer = [
			{ x: 0, y: 0 },
			{ x: 12, y: 15.9 }
		];
		expect(() => fitAlignment(closer, closer, MIDDLE, R)).toThrow('marks at least 20 mm apart');
	});
});

describe('stretched boards', () => {
	test('sorted into the fewest stencils: 25 µm at 100 mm are 500 ppm from end to end', () => {
		expect(sortStretched([0, 500, 501, 260], 100, 25)).toEqual([
			{ scalePpm: 250, lowPpm: 0, highPpm: 500, boards: [0, 3, 1] },
			{ scalePpm: 501, lowPpm: 501, highPpm: 501, boards: [2] }
		]);
		expect(rescuedByScaling([250, -250, 251, -251, 0], 100, 25)).toBe(2);
		expect(() => sortStretched([0], 0, 25)).toThrow('rMaxMm');
		expect(() => sortStretched([0], 100, 0)).toThrow('tolUm');
		expect(() => sortStretched([0, NaN], 100, 25)).toThrow('ppm[1]');
	});

	test('what a job allows, µm: a fifth of its narrowest fine pad, 25 at a pitch of 0.4 mm, 50 at most', () => {
		expect(jobToleranceUm([])).toBe(50);
		expect(jobToleranceUm([{ padWidthMm: 0.2, pitchMm: 0.5 }])).toBe(40);
		expect(jobToleranceUm([{ padWidthMm: 0.2, pitchMm: 0.4 }])).toBe(25);
		expect(jobToleranceUm([{ padWidthMm: 0.1, pitchMm: 0.4 }])).toBe(20);
		expect(
			jobToleranceUm([
				{ padWidthMm: 0.2, pitchMm: null },
				{ padWidthMm: 0.3, pitchMm: 0.65 }
			])
		).toBe(40);
	});
});

describe('prints between wipes', () => {
	const falling = (a: number, b: number, n = 12, wave = 0.2) =>
		Array.from({ length: n }, (_, i) => ({ sinceWipe: i % 6, meanPct: a + b * (i % 6) + (i % 2 ? wave : -wave) }));
	const readings = falling(95, -1);
	const fit = leastSquares(
		readings.map((r) => [1, r.sinceWipe]),
		readings.map((r) => r.meanPct)
	);
	const [a, b] = fit.coefficients as [number, number];
	const t = studentQuantile(0.95, 10);
	const low = b - t * fit.standardErrors[1]!;

	test('from the slope at its worst, three pad spreads above the limit', () => {
		const advice = wipeInterval(readings, 5, 60);
		expect(advice).toMatchObject({ a: expect.closeTo(a, 9), b: expect.closeTo(b, 9), bLow: expect.closeTo(low, 9), observed: 6 });
		expect(advice.allows).toBe(Math.floor((a - 15 - 60) / -low) + 1);
		// Never more than twice what was seen.
		expect(advice.offer).toBe(12);
		expect(advice.verdict).toMatchObject({
			level: 'good',
			statement: `The drift allows ${advice.allows} prints; intervals of 6 were seen: try 12, then measure again.`,
			doNext: ['Wipe every 12 prints', 'Make one interval in ten odd: with even intervals stroke and wipe cannot be told apart']
		});
		expect(advice.verdict.because[0]).toMatchObject({
			quantity: 'Drift between wipes',
			value: expect.closeTo(b, 9),
			formula: expect.stringContaining(' − ')
		});
		expect(advice.verdict.because[1]).toMatchObject({ value: advice.allows, limit: '3 pad spreads above 60 %' });
	});

	test('fewer than are printed now is an act; an odd interval needs no odd one in ten', () => {
		const steep = wipeInterval(falling(80, -1.2), 5, 60);
		expect(steep.allows).toBeLessThan(6);
		expect(steep.verdict).toMatchObject({ level: 'act', statement: `The drift allows ${steep.allows} prints between wipes.` });
		expect(steep.offer).toBe(steep.allows);
		const odd = wipeInterval(readings, 5, 60, 7);
		expect(odd).toMatchObject({ offer: 7, verdict: { doNext: ['Wipe every 7 prints'] } });
	});

	test('no fall: as many as the plant lets it, twice what was seen at most', () => {
		expect(wipeInterval(falling(95, 0), 5, 60)).toMatchObject({
			allows: null,
			offer: 12,
			verdict: { level: 'good', statement: 'No fall between wipes: up to 12 prints.' }
		});
		expect(wipeInterval(falling(95, 0.5), 5, 60, 8)).toMatchObject({ allows: null, offer: 8 });
		expect(wipeInterval(falling(95, 0.5), 5, 60).verdict.because[0]!.formula).toContain(' + ');
	});

	test('too low right after a wipe: no interval helps', () => {
		for (const slope of [-1, 0.5]) {
			const none = wipeInterval(falling(70, slope), 5, 60);
			expect(none).toMatchObject({
				allows: 0,
				offer: 0,
				verdict: { level: 'act', statement: 'Wiping cannot save this opening: it is too low right after a wipe.' }
			});
			expect(none.verdict.doNext).toEqual(['Clean the stencil and look through it', 'Check the foil against this opening']);
		}
	});

	test('four panels at least, whole counters, figures', () => {
		expect(() => wipeInterval(readings.slice(0, 3), 5, 60)).toThrow('at least four panels');
		expect(() => wipeInterval([...readings, { sinceWipe: -1, meanPct: 90 }], 5, 60)).toThrow('readings[12].sinceWipe');
		expect(() => wipeInterval([...readings, { sinceWipe: 1, meanPct: NaN }], 5, 60)).toThrow('readings[12].meanPct');
		expect(wipeInterval(readings.slice(0, 4), 5, 60).observed).toBe(4);
	});

	test('played back: a wipe when the next panel is too likely below the limit, or at the longest', () => {
		const panels = Array.from({ length: 12 }, (_, i) => ({ meanPct: 90 - 2 * (i % 3), sinceWipe: i % 3 }));
		const drift = { b: -2, sigma: 1, lowestPct: 80 };
		// Without the drift every panel is 90: after n prints the next lies at 88 − 2n; 2.326 spreads above 80 are 1 %.
		const wipesAt = [0, 1, 2, 3, 4, 5].find((n) => normalCdf((80 - (90 - 2 * (n + 1))) / 1) > 0.01)!;
		const played = replayAdaptiveWipe(panels, drift, { wipeS: 10, fixedEvery: 3 });
		expect(played.wipesAfter).toEqual([wipesAt, 2 * wipesAt + 1, 3 * wipesAt + 2].filter((i) => i < 12));
		expect(played.savedS).toBe((4 - played.wipesAfter.length) * 10);
		expect([played.belowFixed, played.belowAdaptive]).toEqual([0, 0]);
		expect(replayAdaptiveWipe(panels, { ...drift, lowestPct: 87 }, { wipeS: 10, fixedEvery: 3, risk: 1 })).toMatchObject({
			belowFixed: 4,
			belowAdaptive: 10
		});
		expect(replayAdaptiveWipe(panels, drift, { wipeS: 10, fixedEvery: 3, longest: 2 }).wipesAfter).toEqual([1, 3, 5, 7, 9, 11]);
		expect(replayAdaptiveWipe([], drift, { wipeS: 10, fixedEvery: 3 })).toEqual({
			wipesAfter: [],
			savedS: 0,
			belowFixed: 0,
			belowAdaptive: 0
		});
	});
});

describe('support under a panel', () => {
	const panel = { widthMm: 120, heightMm: 100, thicknessMm: 1.6 };
	const box = { minX: 50, maxX: 60, minY: 40, maxY: 50 };

	test('without a pin the middle is farthest from the rails, which lie along its length', () => {
		const { widest, verdict } = checkSupport({ ...panel, heightMm: 60 }, [], []);
		expect(widest.mm).toBe(30);
		expect(widest.at.y).toBe(30);
		expect(verdict.because).toMatchObject([{ value: 30, unit: 'mm' }, { value: 0 }]);
	});

	test('a pin halves the way; where it still sags, another one is proposed there', () => {
		const free = checkSupport(panel, [], []);
		expect(free.widest.mm).toBe(50);
		expect(free.verdict).toMatchObject({
			level: 'act',
			statement: expect.stringMatching(/^The panel is free for 50 mm around \d+, 50: it sags there\.$/)
		});
		expect(free.verdict.doNext[0]).toMatch(/^Set a pin near \d+, 50 mm$/);
		const held = checkSupport(
			panel,
			[20, 45, 70, 95].flatMap((x) => [
				{ x, y: 35, radiusMm: 2 },
				{ x, y: 65, radiusMm: 2 }
			]),
			[]
		);
		expect(held.verdict).toMatchObject({ level: 'good', statement: 'Supported everywhere, and no pin touches a part.', doNext: [] });
		expect(held.widest.mm).toBeLessThan(28);
	});

	test('a pin may stand as near to a part as its clearance, and never nearer', () => {
		const at = (x: number) =>
			checkSupport(
				panel,
				[
					{ x: 10, y: 10, radiusMm: 1 },
					{ x, y: 45, radiusMm: 2 }
				],
				[{ name: 'C7', box }]
			);
		const nearest =
			50 -
			2 -
			(at(0).verdict.because[1]!.limit as string)
				.match(/at least ([\d.]+) mm/)!
				.slice(1)
				.map(Number)[0]!;
		expect(at(nearest).collisions).toEqual([]);
		expect(at(nearest + 0.01).collisions).toEqual([{ pin: 1, part: 'C7', gapMm: expect.closeTo(50 - nearest - 0.01 - 2, 9) }]);
		expect(at(nearest + 0.01).verdict).toMatchObject({
			level: 'stopped',
			statement: 'Pin 2 stands under C7: it would crush it.',
			doNext: ['Move pin 2']
		});
		// Off its corner the way is the diagonal.
		expect(checkSupport(panel, [{ x: 63, y: 54, radiusMm: 1 }], [{ name: 'C7', box }]).collisions[0]?.gapMm ?? 4).toBeCloseTo(4, 9);
	});
});

describe('a trial of force, speed and separation', () => {
	const corners = [-1, 1].flatMap((force) => [-1, 1].flatMap((speed) => [-1, 1].map((separation) => ({ force, speed, separation }))));
	const panels = (response: (c: (typeof corners)[number], k: number) => number, middle: number[] = []): TrialPanel[] => [
		...corners.flatMap((coded) => [0, 1].map((k) => ({ coded, stroke: 'F', response: response(coded, k) }))),
		...middle.map((m) => ({ coded: { force: 0, speed: 0, separation: 0 }, stroke: 'F', response: m }))
	];

	test('effects are from low to high; real where their interval leaves 0 out', () => {
		const { strokes, verdict } = readTrial(
			panels((c, k) => 90 + 3 * c.force - 1.5 * c.speed * c.separation + (k ? 0.5 : -0.5)),
			95
		);
		const [{ effects, best, sigma, curvature }] = strokes as [(typeof strokes)[number]];
		expect(effects.map((e) => [e.name, Math.round(e.effect * 1e6) / 1e6 + 0, e.real])).toEqual([
			['force', 6, true],
			['speed', 0, false],
			['separation', 0, false],
			['force × speed', 0, false],
			['force × separation', 0, false],
			['speed × separation', -3, true]
		]);
		// 16 readings less 7 coefficients leave 9; each is half a per cent off.
		expect(sigma).toBeCloseTo(Math.sqrt(4 / 9), 9);
		const half = studentQuantile(0.975, 9) * ((2 * sigma) / 4);
		expect([effects[0]!.low, effects[0]!.high]).toEqual([expect.closeTo(6 - half, 9), expect.closeTo(6 + half, 9)]);
		expect(best).toMatchObject({ expected: expect.closeTo(94.5, 9), coded: { force: 1 } });
		expect(best!.coded.speed * best!.coded.separation).toBe(-1);
		expect(curvature).toBeNull();
		expect(verdict).toMatchObject({
			level: 'watch',
			statement: 'force moves the volume most: +6.0 % from low to high.',
			doNext: ['Print 6 panels at the proposed corner to confirm', 'Change the recipe only after the confirming prints']
		});
		expect(verdict.because.map((r) => r.quantity)).toEqual(['force, F stroke', 'speed × separation, F stroke']);
		expect(verdict.because[0]!.value).toMatch(/^\+6\.0 \(/);
		expect(verdict.because[1]!.value).toMatch(/^-3\.0 \(/);
	});

	test('a middle that lies above its corners bends the response', () => {
		const { strokes, verdict } = readTrial(
			panels((c, k) => 90 + 3 * c.force + (k ? 0.2 : -0.2), [95, 95.2, 94.8]),
			95
		);
		expect(strokes[0]!.curvature).toMatchObject({ effect: expect.closeTo(-5, 9), real: true });
		expect(strokes[0]!.panels).toBe(19);
		expect(verdict.doNext[0]).toBe('The response bends: the best setting lies inside the range, try the middle');
	});

	test('nothing real keeps the recipe; nothing measured is no verdict; a missing corner is refused', () => {
		const none = readTrial(panels((_, k) => 90 + (k ? 2 : -2)));
		expect(none.verdict).toMatchObject({ level: 'good', doNext: ['Keep the recipe; choose the setting that is fastest'], because: [] });
		expect(none.strokes[0]!.best).toBeNull();
		expect(readTrial([]).verdict).toMatchObject({ level: 'noData', doNext: [] });
		expect(() => readTrial(panels(() => 90).slice(2))).toThrow('stroke F');
	});
});

describe('words that go with a verdict', () => {
	test('tension, blade and first prints say what to do', () => {
		const even = (nPerCm: number, n = 5) => Array.from({ length: n }, (_, i) => ({ x: i, y: i, nPerCm }));
		expect(judgeTension(even(38, 2)).doNext[0]).toMatch(/^Measure the corners/);
		expect(judgeTension(even(25))).toMatchObject({ level: 'stopped', doNext: ['Take another stencil', 'Have it stretched again'] });
		expect(judgeTension(even(31))).toMatchObject({
			level: 'watch',
			doNext: ['Measure again at the next clean'],
			statement: expect.stringContaining('close to the')
		});
		expect(judgeTension([...even(34, 4), { x: 9, y: 9, nPerCm: 46 }]).statement).toContain('uneven');
		expect(judgeTension(even(38))).toMatchObject({ level: 'good', doNext: [] });
		expect(judgeTension(even(38)).because).toHaveLength(2);
		expect(judgeBlade(10, true).doNext).toEqual(['Replace the blade']);
		expect(judgeBlade(1e6, false).doNext).toEqual(['Replace the blade']);
		expect(judgeBlade(10, false).doNext).toEqual([]);
		expect(judgeFirstPrints([], 50)).toMatchObject({ doNext: ['Print the first panel and inspect every pad'] });
	});
});
