import { describe, expect, test } from 'vitest';
import { correlation } from '../../numerics/index.ts';
import { blockedPads, highPlaces, nickedStrips, strokeDifferences } from './local.ts';
import { fitOffsets, medianWithError, padMedian, spreadWithinStrokes } from './offsets.ts';
import { fitFactors, fitTilt } from './regress.ts';
import type { Prepared, SignaturePanel } from './run.ts';

// The fits behind the causes on numbers whose answer is known: what was put in comes out.

const prepared = (own: object) => own as unknown as Prepared;
const range = <T>(n: number, of: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => of(i));

describe('panel medians on what changes over the run', () => {
	const panel = (m: number, own: Partial<SignaturePanel> = {}): SignaturePanel => ({
		serial: `P${m}`,
		tMin: 100 + 2 * m,
		stroke: m % 2 ? 'R' : 'F',
		printsSinceWipe: m % 5,
		printsSinceTopup: (3 * m) % 7,
		minutesSincePrevious: m === 9 || m === 16 ? 21 : 2,
		...own
	});
	const panels = range(40, (m) => panel(m));
	const sum = (m: number, { stroke, wipe, time, topup, pause } = { stroke: 3, wipe: -1.5, time: -8, topup: 0.5, pause: -4 }) =>
		2 +
		stroke * (m % 2 ? -0.5 : 0.5) +
		wipe * (m % 5) +
		(time * m) / 39 +
		topup * ((3 * m) % 7) +
		(panels[m]!.minutesSincePrevious > 20 ? pause : 0);

	test('each effect comes out as it was put in, with how far it reaches', () => {
		const fit = fitFactors(
			panels.map((_, m) => sum(m)),
			panels
		);
		const found = Object.fromEntries(Object.entries(fit.effects).map(([f, { value }]) => [f, Math.round(value * 1e6) / 1e6]));
		expect(found).toEqual({ stroke: 3, wipe: -1.5, time: -8, topup: 0.5, pause: -4 });
		expect(fit.reach).toEqual({ stroke: 0.5, wipe: 4, time: 1, topup: 6, pause: 1 });
		expect([fit.outliers, fit.notTestable, fit.ambiguous]).toEqual([[], [], []]);
	});

	test('a t is the value over its error', () => {
		const fit = fitFactors(
			panels.map((_, m) => sum(m) + (m % 3 ? 0.4 : -0.8)),
			panels
		);
		for (const { value, error, t } of Object.values(fit.effects)) expect(t).toBeCloseTo(value / error, 12);
		expect(fit.effects.stroke!.error).toBeGreaterThan(0.1);
	});

	test('a panel that was not measured is left out of the fit', () => {
		const y = panels.map((_, m) => (m === 4 ? NaN : sum(m)));
		expect(fitFactors(y, panels).effects.time!.value).toBeCloseTo(-8, 6);
	});

	test('what did not change cannot be tested: one pause is none, three strokes of a kind are too few', () => {
		const y = panels.map((_, m) => sum(m));
		const without = (own: (m: number) => Partial<SignaturePanel>) =>
			fitFactors(
				y,
				panels.map((_, m) => panel(m, own(m)))
			).notTestable;
		expect(without((m) => ({ minutesSincePrevious: m === 9 ? 21 : 2 }))).toEqual(['pause']);
		expect(without((m) => ({ minutesSincePrevious: m === 9 ? 21 : 20 }))).toEqual(['pause']);
		expect(without((m) => ({ stroke: m < 3 ? 'R' : 'F' }))).toEqual(['stroke']);
		expect(without((m) => ({ stroke: m < 4 ? 'R' : 'F' }))).toEqual([]);
		expect(without((m) => ({ stroke: m < 3 ? 'F' : 'R' }))).toEqual(['stroke']);
		expect(without(() => ({ printsSinceWipe: 0, printsSinceTopup: 3 }))).toEqual(['wipe', 'topup']);
		expect(without(() => ({ tMin: 5 }))).toEqual(['time']);
	});

	test('a wipe every second print is the stroke: the pair is said and the second is left out', () => {
		const alternate = panels.map((_, m) => panel(m, { printsSinceWipe: m % 2 }));
		const fit = fitFactors(
			panels.map((_, m) => (m % 2 ? -3 : 3)),
			alternate
		);
		expect(fit.ambiguous).toEqual([['stroke', 'wipe']]);
		expect(fit.effects.wipe).toBeUndefined();
		expect(fit.effects.stroke!.value).toBeCloseTo(6, 9);
	});

	test('two that go together by nine tenths cannot be told apart; a little less can', () => {
		const twelve = (k: number) => range(12, (m) => panel(m, { tMin: m, printsSinceTopup: m + (m % 2 ? k : -k), minutesSincePrevious: 2 }));
		const alike = (k: number) =>
			Math.abs(
				correlation(
					range(12, (m) => m),
					twelve(k).map((p) => p.printsSinceTopup)
				)
			);
		expect(alike(1.8)).toBeGreaterThan(0.9);
		expect(alike(1.83)).toBeLessThan(0.9);
		const y = range(12, (m) => m % 3);
		expect(fitFactors(y, twelve(1.8)).ambiguous).toEqual([['time', 'topup']]);
		expect(fitFactors(y, twelve(1.83)).ambiguous).toEqual([]);
		// Against each other counts as well.
		const against = twelve(1.8).map((p) => ({ ...p, printsSinceTopup: 20 - p.printsSinceTopup }));
		expect(fitFactors(y, against).ambiguous).toEqual([['time', 'topup']]);
	});

	test('columns that depend on each other only together leave nothing to be told', () => {
		const three = range(12, (m) =>
			panel(m, { tMin: m, printsSinceWipe: m % 4, printsSinceTopup: m + 4 * (m % 4), minutesSincePrevious: 2 })
		);
		const fit = fitFactors(
			range(12, (m) => m % 3),
			three
		);
		expect(fit.effects).toEqual({});
		expect(new Set(fit.notTestable)).toEqual(new Set(['pause', 'stroke', 'wipe', 'time', 'topup']));
	});

	test('a panel that lies more than 10 lp from the fit is named and left out; the rest fits as without it', () => {
		const off = (by: number) =>
			fitFactors(
				panels.map((_, m) => sum(m) + (m === 21 ? by : 0)),
				panels
			);
		const far = off(12.5);
		expect(far.outliers).toEqual([21]);
		expect(far.effects.time!.value).toBeCloseTo(-8, 6);
		expect(off(-12.5).outliers).toEqual([21]);
		expect(off(9.9).outliers).toEqual([]);
		expect(off(9.9).effects.time!.value).not.toBeCloseTo(-8, 3);
	});

	test('where panels scatter, five spreads are what stands out', () => {
		const noisy = (by: number) =>
			fitFactors(
				panels.map((_, m) => sum(m) + [1, 1, -1, -1][m % 4]! * 4 + (m === 21 ? by : 0)),
				panels
			).outliers;
		// One spread is about 1.4826 · 4 lp: five are 30.
		expect(noisy(20)).toEqual([]);
		expect(noisy(45)).toEqual([21]);
	});
});

describe('slopes over the board', () => {
	const grid = range(16, (i) => ({ across: [-1, -1 / 3, 1 / 3, 1][i % 4]!, along: [-1, -1 / 3, 1 / 3, 1][i >> 2]! }));
	const board = (md: (i: number) => number, classes = (_: number) => 'chip', places = grid) =>
		prepared({
			run: { pads: places.map((_, i) => ({ padClass: classes(i) })) },
			md: Float64Array.from(places, (_, i) => md(i)),
			across: Float64Array.from(places, (p) => p.across),
			along: Float64Array.from(places, (p) => p.along)
		});

	test('come out as they were put in, whatever level each class has', () => {
		const tilt = fitTilt(
			board(
				(i) => 3 * grid[i]!.across - 2 * grid[i]!.along + (i % 2 ? 40 : 0),
				(i) => (i % 2 ? 'chip' : 'large')
			)
		)!;
		expect(tilt.across.value).toBeCloseTo(3, 9);
		expect(tilt.along.value).toBeCloseTo(-2, 9);
	});

	test('their errors are those of least squares', () => {
		// A chess board of ±1 leans neither way.
		const tilt = fitTilt(board((i) => 5 * grid[i]!.across + 2 * grid[i]!.along + ((i + (i >> 2)) % 2 ? 1 : -1)))!;
		const variance = 16 / (16 - 1 - 2);
		const squares = grid.reduce((sum, p) => sum + p.across ** 2, 0);
		expect(tilt.across.value).toBeCloseTo(5, 9);
		expect(tilt.across.error).toBeCloseTo(Math.sqrt(variance / squares), 9);
		expect(tilt.along.error).toBeCloseTo(Math.sqrt(variance / squares), 9);
		expect(tilt.across.t).toBeCloseTo(5 / tilt.across.error, 9);
		expect(tilt.along.t).toBeCloseTo(2 / tilt.along.error, 9);
	});

	test('one opening far off does not lean the board; pads that are explained or unread are left out', () => {
		const level = (i: number) => 3 * grid[i]!.across;
		expect(fitTilt(board((i) => level(i) + (i === 3 ? 50 : 0)))!.across.value).toBeCloseTo(3, 9);
		expect(fitTilt(board((i) => level(i) + (i === 3 ? -50 : 0)))!.across.value).toBeCloseTo(3, 9);
		expect(fitTilt(board((i) => level(i) + (i === 3 ? 4 : 0)))!.across.value).not.toBeCloseTo(3, 3);
		expect(
			fitTilt(
				board((i) => level(i) + (i === 3 ? 4 : 0)),
				new Set([3])
			)!.across.value
		).toBeCloseTo(3, 9);
		expect(fitTilt(board((i) => (i === 3 ? NaN : level(i))))!.across.value).toBeCloseTo(3, 9);
	});

	test('ten degrees of freedom are needed, and pads that span both ways', () => {
		const some = (n: number, classes?: (i: number) => string) => fitTilt(board((i) => grid[i]!.across, classes, grid.slice(0, n)));
		expect(some(13)).not.toBeNull();
		expect(some(12)).toBeNull();
		expect(some(13, (i) => (i % 2 ? 'chip' : 'large'))).toBeNull();
		const line = grid.map(({ across }) => ({ across, along: 2 * across }));
		expect(fitTilt(board((i) => line[i]!.across, undefined, line))).toBeNull();
	});
});

describe('offsets of a panel', () => {
	// Not about the middle: the fit must move its turn and stretch there.
	const pads = [
		[0, 0],
		[40, 0],
		[40, 30],
		[10, 30],
		[25, 5]
	].map(([xMm, yMm]) => ({ xMm: xMm!, yMm: yMm! }));
	const centre = { x: 20, y: 15 };
	const run = (of: (u: number, w: number, m: number) => [number, number], panels = 2, own = pads) => {
		const all = range(panels, (m) => own.map(({ xMm, yMm }) => of(xMm - centre.x, yMm - centre.y, m))).flat();
		return prepared({
			centre,
			run: { pads: own, panels: range(panels, () => ({})), offsetXUm: all.map(([x]) => x), offsetYUm: all.map(([, y]) => y) }
		});
	};
	const [theta, stretch] = [0.6, -0.4];
	const moved = (u: number, w: number, m: number): [number, number] => [12 + m - theta * w + stretch * u, -7 + theta * u + stretch * w];

	test('are a move, a turn and a stretch, panel by panel', () => {
		const fit = fitOffsets(run(moved));
		for (const [name, want] of [
			['tx', [12, 13]],
			['ty', [-7, -7]],
			['theta', [0.6, 0.6]],
			['stretch', [-0.4, -0.4]]
		] as const)
			fit[name].forEach((v, m) => expect(v, `${name} ${m}`).toBeCloseTo(want[m]!, 9));
	});

	test('a pad that was not read in one axis counts in neither', () => {
		for (const axis of [0, 1]) {
			const holed = run((u, w, m) => {
				const o = moved(u, w, m);
				if (u === 20 && w === 15) o[axis] = NaN;
				return o;
			}, 1);
			const fit = fitOffsets(holed);
			expect(fit.tx[0]).toBeCloseTo(12, 9);
			expect(fit.ty[0]).toBeCloseTo(-7, 9);
			expect(fit.theta[0]).toBeCloseTo(0.6, 9);
		}
	});

	test('one pad alone is a move only', () => {
		expect(fitOffsets(run(() => [5, 6], 1, [pads[0]!]))).toEqual({ tx: [5], ty: [6], theta: [0], stretch: [0] });
	});

	test('middles: none of nothing, with the error of a median, without what was not read', () => {
		expect(medianWithError([])).toEqual({ value: NaN, error: NaN, n: 0 });
		expect(medianWithError([1, 3, 5, 7])).toEqual({ value: 4, error: (1.2533 * 1.4826 * 2) / 2, n: 4 });
		expect(padMedian(Float64Array.of(1, NaN, 3, 90), [0, 1, 2])).toMatchObject({ value: 2, n: 2 });
		// Each stroke about its own middle.
		expect(spreadWithinStrokes([0, 4, 100, 108], ['F', 'F', 'R', 'R'])).toBeCloseTo(1.4826 * 3, 9);
	});
});

describe('places where deposits stand too high', () => {
	// A dozen lone pads say what the class usually has; what is looked for stands apart from them.
	const lone = range(12, (i) => ({ xMm: 200 + 40 * i, yMm: 0, refDes: `L${i}`, padClass: 'chip', lp: 0 }));
	const find = (own: { xMm: number; yMm: number; refDes?: string; lp?: number }[], leastLp = 12, leastZ = 4, others = lone) => {
		const pads = [...own.map((p, i) => ({ refDes: `R${i >> 1}`, padClass: 'chip', lp: 13, ...p })), ...others];
		return highPlaces(prepared({ run: { pads }, hr: Float64Array.from(pads, ({ lp }) => Math.exp(lp / 100)) }), leastLp, leastZ);
	};
	const square = (half: number, x = 0) => [
		{ xMm: x - half, yMm: -half },
		{ xMm: x + half, yMm: -half },
		{ xMm: x + half, yMm: half },
		{ xMm: x - half, yMm: half }
	];

	test('four pads of two parts, from the threshold on', () => {
		const [place, ...more] = find(square(1));
		expect(more).toEqual([]);
		expect(place!.size).toBeCloseTo(13, 9);
		expect([...place!.pads].sort()).toEqual([0, 1, 2, 3]);
		expect(Math.hypot(place!.at.xMm, place!.at.yMm)).toBeLessThan(13);
		// At least 1.5 lp of spread are taken for granted; four pads halve it.
		expect(place!.z).toBeCloseTo(13 / ((1.2533 * 1.5) / 2), 9);
		expect(find(square(1), 12.99)).toHaveLength(1);
		expect(find(square(1), 13.01)).toEqual([]);
		expect(find(square(1), 12, 13.8)).toHaveLength(1);
		expect(find(square(1), 12, 13.9)).toEqual([]);
	});

	test('three pads, or four of one part, are no place; nor is one that was not read', () => {
		expect(find(square(1).slice(0, 3))).toEqual([]);
		expect(find(square(1).map((p) => ({ ...p, refDes: 'U1' })))).toEqual([]);
		expect(find(square(1).map((p, i) => ({ ...p, ...(i === 0 ? { lp: NaN } : {}) })))).toEqual([]);
		expect(find([...square(1), { xMm: 0, yMm: 0, lp: NaN }])[0]!.pads).toHaveLength(4);
	});

	test('as wide as 13 mm around its middle, no wider', () => {
		expect(find(square(7))).toHaveLength(1);
		expect(find(square(10))).toEqual([]);
	});

	test('each against its own class, and by the spread of the board', () => {
		const high = square(1).map((p) => ({ ...p, padClass: 'large' }));
		const others = range(12, (i) => ({
			xMm: 200 + 40 * i,
			yMm: 0,
			refDes: `L${i}`,
			padClass: i % 2 ? 'chip' : 'large',
			lp: i % 2 ? 0 : 13
		}));
		expect(find(high, 12, 4, others)).toEqual([]);
		const noisy = range(12, (i) => ({ ...lone[i]!, lp: i % 2 ? 6 : -6 }));
		expect(find(square(1), 6, 1, noisy)[0]!.z).toBeLessThan(6);
	});

	test('two that overlap are one, the surer; two apart are two', () => {
		const surer = [...square(1), { xMm: 0, yMm: 0 }, { xMm: 0.5, yMm: 0 }];
		const both = (x: number) => find([...surer, ...square(1, x)]);
		expect(both(20)).toHaveLength(1);
		expect(both(20)[0]!.pads.length).toBeGreaterThanOrEqual(6);
		expect(both(60)).toHaveLength(2);
	});
});

describe('strips that differ with one stroke', () => {
	// Two pads every 5 mm across; four panels a stroke.
	const x = range(40, (p) => 5 * (p >> 1));
	const run = (diff: (x: number, pad: number) => number, strokes = 'FRFRFRFR', at = x) =>
		prepared({
			run: { pads: at.map((xMm) => ({ xMm })), panels: [...strokes].map((stroke) => ({ stroke })), strokeAxis: 'y' },
			r: Float32Array.from([...strokes].flatMap((s) => at.map((v, p) => (s === 'F' ? diff(v, p) : 0) + 7))),
			md: new Float64Array(at.length).fill(7),
			acrossMm: Float64Array.from(at),
			centre: { x: 50, y: 33 }
		});
	const nick = (v: number) => (v >= 40 && v <= 50 ? 12 : 0);

	test('front less rear of each pad, less the middle of all', () => {
		const found = strokeDifferences(run((v) => nick(v) + 3))!;
		expect(found.difference[0]).toBeCloseTo(0, 6);
		expect(found.difference[16]).toBeCloseTo(12, 5);
		expect(found.sigma).toBe(1);
		const wide = strokeDifferences(run((_, p) => [-6, -2, 2, 6][p % 4]!))!;
		expect(wide.sigma).toBeCloseTo(1.4826 * 4, 5);
		expect(strokeDifferences(run(nick, 'FRFRFRRR'))).toBeNull();
		expect(strokeDifferences(run(nick, 'RFRFRFFF'))).toBeNull();
	});

	test('the strip, its pads and its middle', () => {
		const [strip, ...more] = nickedStrips(run(nick), 10, 4);
		expect(more).toEqual([]);
		// It is found within half its width: two thirds of its pads are enough for the middle.
		expect(strip).toMatchObject({ strip: [35, 45], at: { xMm: 40, yMm: 33 }, pads: [14, 15, 16, 17, 18, 19] });
		expect(strip!.size).toBeCloseTo(12, 5);
		expect(strip!.z).toBeCloseTo(12 / (1.2533 / Math.sqrt(6)), 4);
		expect(
			nickedStrips(
				run((v) => -nick(v)),
				10,
				4
			)[0]!.size
		).toBeCloseTo(-12, 5);
		expect(nickedStrips(run(nick), 11.9, 4)).toHaveLength(1);
		expect(nickedStrips(run(nick), 12.1, 4)).toEqual([]);
		expect(nickedStrips(run(nick), 10, 23)).toHaveLength(1);
		expect(nickedStrips(run(nick), 10, 24)).toEqual([]);
		const p = run(nick);
		expect(nickedStrips(prepared({ ...p, run: { ...p.run, strokeAxis: 'x' } }), 10, 4)[0]!.at).toEqual({ xMm: 50, yMm: 40 });
	});

	test('too few pads, or most of the board, are no strip; two apart are two', () => {
		const alone = range(40, (p) => (p < 3 ? 500 + p : 5 * (p >> 1)));
		expect(
			nickedStrips(
				run((v) => (v >= 500 ? 12 : 0), undefined, alone),
				10,
				4
			)
		).toEqual([]);
		const narrow = range(40, (p) => (p < 26 ? 4 : 60));
		expect(
			nickedStrips(
				run((v) => (v === 4 ? 0 : 12), undefined, narrow),
				10,
				4
			).map((s) => s.pads.length)
		).toEqual([14]);
		const two = (other: number) =>
			nickedStrips(
				run((v) => (nick(v) || (v >= other && v <= other + 10) ? 12 : 0)),
				10,
				4
			);
		expect(two(70)).toHaveLength(2);
		expect(two(60)).toHaveLength(2);
		expect(two(45)).toHaveLength(1);
	});
});

describe('openings that deliver too little', () => {
	// Nine panels, the last three of them count; two classes.
	const run = (last: (pad: number, m: number) => number) => {
		const pads = range(10, (p) => ({ padClass: p % 2 ? 'chip' : 'large' }));
		return prepared({
			run: { pads, panels: range(9, () => ({})) },
			r: Float32Array.from(range(9, (m) => pads.map((_, p) => last(p, m))).flat()),
			md: Float64Array.from(pads, (_, p) => (p % 2 ? -5 : 5))
		});
	};
	const usual = (p: number) => (p % 2 ? -5 : 5);

	test('against their class, in the last third, from 35 lp on, the worst first', () => {
		const found = blockedPads(
			run((p, m) => (m < 6 ? usual(p) : p === 3 ? -40 : p === 4 ? -35 : p === 5 ? -39.9 : usual(p))),
			35
		);
		expect(found).toEqual([
			{ pad: 4, size: -40 },
			{ pad: 3, size: -35 }
		]);
	});
	test('a third that was blocked before and is free now is not', () => {
		expect(
			blockedPads(
				run((p, m) => (p === 3 && m < 6 ? -60 : usual(p))),
				35
			)
		).toEqual([]);
	});
	test('readings that are missing are left out', () => {
		expect(
			blockedPads(
				run((p, m) => (p === 3 && m > 5 ? (m === 6 ? NaN : -50) : usual(p))),
				35
			)
		).toEqual([{ pad: 3, size: -45 }]);
	});
});
