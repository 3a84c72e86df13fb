import { describe, expect, test } from 'vitest';
import { InputError } from '../judgement/index.ts';
import type { PadClass } from '../parts/index.ts';
import {
	checkLimits,
	DEPOSIT_LIMITS,
	gapAcrossWebMm,
	gapToNeighbourMm,
	judgeDeposit,
	judgePanelPaste,
	MISSING_PCT,
	panelLevel,
	statisticalLimits,
	thermalMeans,
	widened,
	type LimitSet
} from './deposit.ts';
import { fromSummary, judgePads, judgeReadings, wrongLength, type PanelReadings, type SidePads } from './panel.ts';
import { firstPass, judgeYield, yieldOf } from './yield.ts';

/** A pad as wide as it is long. */
const even = (mm: number) => ({ xMm: mm, yMm: mm });
const RIGHT = { volumePct: 100, heightPct: 100, areaPct: 100, offsetXUm: 0, offsetYUm: 0 };
const change = (edit: (limits: LimitSet) => void): LimitSet => {
	const limits = structuredClone(DEPOSIT_LIMITS);
	edit(limits);
	return limits;
};

/** What plants start from, by class: the figures are common practice and fixed for this product. */
const START: [PadClass, number, number, number, number, [number, number], [number, number], number][] = [
	['fineBallGrid', 60, 150, 75, 130, [60, 150], [60, 150], 0.25],
	['smallChip', 60, 160, 70, 145, [60, 150], [60, 150], 0.25],
	['chip', 50, 170, 65, 150, [55, 160], [55, 150], 0.3],
	['fineLead', 60, 140, 75, 125, [60, 150], [60, 140], 0.2],
	['thermal', 50, 150, 60, 140, [50, 140], [50, 140], 0.3],
	['large', 60, 140, 75, 125, [60, 140], [60, 140], 0.3]
];

describe.each(START)('a deposit of class %s', (padClass, failLow, failHigh, warnLow, warnHigh, height, area, share) => {
	const judge = (more: Partial<typeof RIGHT & { bridge: boolean }>, widthMm = 0.4) =>
		judgeDeposit(padClass, even(widthMm), { ...RIGHT, ...more });

	test('its volume fails beyond its limits, and passes on them', () => {
		expect(judge({ volumePct: failLow }).codes).toEqual([]);
		expect(judge({ volumePct: failLow - 0.01 }).codes).toEqual(['insufficient']);
		expect(judge({ volumePct: failHigh }).codes).toEqual([]);
		expect(judge({ volumePct: failHigh + 0.01 }).codes).toEqual(['excess']);
	});

	test('its volume is watched between the warning and the failing limits', () => {
		expect(judge({ volumePct: warnLow }).warn).toBe(false);
		expect(judge({ volumePct: warnLow - 0.01 }).warn).toBe(true);
		expect(judge({ volumePct: warnHigh }).warn).toBe(false);
		expect(judge({ volumePct: warnHigh + 0.01 }).warn).toBe(true);
		expect(judge({ volumePct: failLow - 0.01 }).warn).toBe(false);
	});

	test('its height and its area each have two limits', () => {
		for (const [field, code, [low, high]] of [
			['heightPct', 'height', height],
			['areaPct', 'area', area]
		] as const) {
			expect(judge({ [field]: low }).codes).toEqual([]);
			expect(judge({ [field]: low - 0.01 }).codes).toEqual([code]);
			expect(judge({ [field]: high }).codes).toEqual([]);
			expect(judge({ [field]: high + 0.01 }).codes).toEqual([code]);
		}
	});

	test('it may lie off by a share of its own width, to each side and on each axis', () => {
		for (const widthMm of [0.2, 0.5, 1.3]) {
			const reach = share * widthMm * 1000;
			for (const axis of ['offsetXUm', 'offsetYUm'] as const)
				for (const sign of [1, -1]) {
					expect(judge({ [axis]: sign * (reach - 0.01) }, widthMm).codes).toEqual([]);
					expect(judge({ [axis]: sign * (reach + 0.01) }, widthMm).codes).toEqual(['offset']);
				}
		}
	});
});

test('a deposit is missing below 10 % of its volume, and then nothing is said of its height and area', () => {
	expect(MISSING_PCT).toBe(10);
	const bad = { heightPct: 2, areaPct: 2, offsetXUm: 900, offsetYUm: 0 };
	expect(judgeDeposit('chip', even(0.5), { ...bad, volumePct: 9.99 })).toEqual({ codes: ['missing', 'offset'], warn: false });
	expect(judgeDeposit('chip', even(0.5), { ...bad, volumePct: 10 }).codes).toEqual(['insufficient', 'offset', 'height', 'area']);
	expect(judgeDeposit('chip', even(0.5), { ...bad, volumePct: 9.99, bridge: true }).codes).toEqual(['bridge', 'missing', 'offset']);
	expect(judgeDeposit('chip', even(0.5), { ...RIGHT, volumePct: 180, bridge: true }).codes).toEqual(['bridge', 'excess']);
});

describe('limits that a plant enters', () => {
	test('those to start from hold, and their edges are inside', () => {
		expect(() => checkLimits(DEPOSIT_LIMITS)).not.toThrow();
		expect(() =>
			checkLimits(
				change((l) => {
					l.chip = { volumePct: { fail: [0, 400], warn: [0, 400] }, heightPct: [0, 400], areaPct: [100, 100], offsetShare: 1 };
					l.large.offsetShare = 0.02;
				})
			)
		).not.toThrow();
	});

	test.each<[string, (l: LimitSet) => void]>([
		['chip.volumePct.fail', (l) => (l.chip.volumePct.fail[0] = -1)],
		['chip.volumePct.fail', (l) => (l.chip.volumePct.fail[1] = 401)],
		['fineLead.volumePct.warn', (l) => (l.fineLead.volumePct.warn[1] = 99)],
		['large.heightPct', (l) => (l.large.heightPct[0] = 101)],
		['thermal.areaPct', (l) => (l.thermal.areaPct[1] = 99)],
		['smallChip.offsetShare', (l) => (l.smallChip.offsetShare = 0.019)],
		['smallChip.offsetShare', (l) => (l.smallChip.offsetShare = 1.01)],
		['chip.volumePct.warn', (l) => (l.chip.volumePct.warn[0] = 49)],
		['chip.volumePct.warn', (l) => (l.chip.volumePct.warn[1] = 171)]
	])('%s out of its range is refused by name', (field, edit) => {
		const wrong = change(edit);
		expect(() => checkLimits(wrong)).toThrow(InputError);
		expect(() => checkLimits(wrong)).toThrow(field);
	});

	test.each<[string, (l: LimitSet) => void]>([
		['chip from 0402 volume', (l) => (l.chip.volumePct.fail[0] -= 1)],
		['chip from 0402 volume', (l) => (l.chip.volumePct.fail[1] += 1)],
		['leads, pitch to 0.5 mm height', (l) => (l.fineLead.heightPct[0] -= 1)],
		['leads, pitch to 0.5 mm height', (l) => (l.fineLead.heightPct[1] += 1)],
		['leads and connectors area', (l) => (l.large.areaPct[0] -= 1)],
		['leads and connectors area', (l) => (l.large.areaPct[1] += 1)],
		['thermal windows offset', (l) => (l.thermal.offsetShare += 0.01)]
	])('a wider %s lets through what was stopped: it is named', (place, edit) => {
		expect(widened(DEPOSIT_LIMITS, change(edit))).toEqual([place]);
		// The other way round it was tightened, which nobody has to approve.
		expect(widened(change(edit), DEPOSIT_LIMITS)).toEqual([]);
	});

	test('warning limits alone never widen what fails', () => {
		expect(
			widened(
				DEPOSIT_LIMITS,
				change((l) => (l.chip.volumePct.warn = [50, 170]))
			)
		).toEqual([]);
	});
});

describe('limits from the process’s own spread', () => {
	const fixed = DEPOSIT_LIMITS.chip;

	test('they are mean and four spreads in whole percent, rounded outwards', () => {
		expect(statisticalLimits(fixed, 98.3, 5.2).volumePct.fail).toEqual([77, 120]);
		expect(statisticalLimits(fixed, 98.3, 5.2, 3).volumePct.fail).toEqual([82, 114]);
	});

	test('they never leave the fixed ones', () => {
		expect(statisticalLimits(fixed, 100, 30).volumePct).toEqual({ fail: [50, 170], warn: [65, 150] });
		expect(statisticalLimits(fixed, 80, 8).volumePct.fail).toEqual([50, 112]);
	});

	test('a process that would not hold the nominal keeps the fixed ones, on either side', () => {
		// 80 + 4 · 5 = 100: the nominal would lie on the limit.
		expect(statisticalLimits(fixed, 80, 5)).toBe(fixed);
		expect(statisticalLimits(fixed, 80, 5.1).volumePct.fail).toEqual([59, 101]);
		expect(statisticalLimits(fixed, 120, 5)).toBe(fixed);
		expect(statisticalLimits(fixed, 120, 5.1).volumePct.fail).toEqual([99, 141]);
	});
});

describe('a thermal pad printed through windows', () => {
	const of = (...volumePct: number[]) => thermalMeans(['thermal', 'thermal'], ['U1', 'U1'], volumePct)[0]!;

	test('carries 70 to 120 % in the mean, both included', () => {
		expect(of(60, 80)).toEqual({ pads: [0, 1], meanPct: 70, within: true });
		expect(of(60, 79.9).within).toBe(false);
		expect(of(110, 130).within).toBe(true);
		expect(of(110, 130.1).within).toBe(false);
	});

	test('is judged circuit by circuit, and only where it has several windows', () => {
		const classes: PadClass[] = ['thermal', 'chip', 'thermal', 'thermal'];
		const means = thermalMeans(classes, ['U1', 'R1', 'U1', 'U2'], [60, 1, 60, 1, 100, 1, 110, 1]);
		expect(means).toEqual([
			{ pads: [0, 2], meanPct: 60, within: false },
			{ pads: [4, 6], meanPct: 105, within: true }
		]);
		expect(thermalMeans(['thermal', 'thermal'], [null, null], [10, 10])).toEqual([]);
		expect(of(NaN, 100)).toBeUndefined();
	});
});

test('the gap to a neighbour shrinks with the pad, the opening and the offset, whatever its sign', () => {
	expect(gapToNeighbourMm(0.5, 0.3, 0.25, 40)).toBeCloseTo(0.185, 9);
	expect(gapToNeighbourMm(0.5, 0.3, 0.25, -40)).toBeCloseTo(0.185, 9);
	expect(gapAcrossWebMm(0.2, 30, 40)).toBeCloseTo(0.15, 9);
	expect(gapAcrossWebMm(0.2, -30, -40)).toBeCloseTo(0.15, 9);
});

describe('a panel', () => {
	test('is rejected by one fail, looked at by more than one warning in a hundred pads, or three on one part', () => {
		expect(judgePanelPaste(1000, 1, 0)).toBe('reject');
		expect(judgePanelPaste(1000, 0, 10)).toBe('pass');
		expect(judgePanelPaste(1000, 0, 11)).toBe('review');
		expect(judgePanelPaste(1000, 0, 3, 2)).toBe('pass');
		expect(judgePanelPaste(1000, 0, 3, 3)).toBe('review');
		expect(judgePanelPaste(1000, 1, 11, 3)).toBe('reject');
	});

	test('stands by the worst that was seen of it; only a finished one is good', () => {
		expect(panelLevel({ paste: 'pass', failedVisits: 1, finished: true })).toBe('act');
		expect(panelLevel({ paste: 'reject', failedVisits: 0, finished: true })).toBe('act');
		expect(panelLevel({ paste: 'review', failedVisits: 0, finished: true })).toBe('good');
		expect(panelLevel({ paste: null, failedVisits: 0, finished: true })).toBe('good');
		expect(panelLevel({ paste: 'pass', failedVisits: 0, finished: false })).toBe('watch');
		expect(panelLevel({ paste: null, failedVisits: 0, finished: false })).toBe('noData');
	});

	const SIDE: SidePads = {
		circuits: 2,
		classes: ['chip', 'chip', 'chip', 'smallChip'],
		sizes: [0.5, 0.5, 0.5, 0.3, 0.5, 0.5, 0.5, 0.3].map(even),
		refDes: ['R1', 'R1', 'R1', 'C1']
	};
	const readings = (edit: (r: Required<PanelReadings>) => void = () => undefined): PanelReadings => {
		const all = (v: number) => Array.from({ length: 8 }, () => v);
		const r = {
			volumePct: all(100),
			heightUm: all(120),
			areaPct: all(100),
			offsetXUm: all(0),
			offsetYUm: all(0),
			peakHeightUm: all(130),
			bridgedPads: []
		};
		edit(r as never);
		return r;
	};
	const judge = (edit?: (r: { [K in keyof PanelReadings]-?: number[] }) => void) =>
		judgeReadings(readings(edit as never), SIDE, 120, DEPOSIT_LIMITS);

	test('one of them all right passes, with the means that it had', () => {
		expect(judge()).toMatchObject({ pads: 8, fails: 0, warnings: 0, result: 'pass', meanVolumePct: 100, offsetUm: { x: 0, y: 0 } });
		expect(
			judge((r) => {
				r.offsetXUm[2] = 40;
				r.offsetYUm[5] = -80;
				r.volumePct[0] = 92;
			})
		).toMatchObject({ meanVolumePct: 99, offsetUm: { x: 5, y: -10 } });
	});

	test('three warnings on one part of one circuit ask for a look; the same three over two circuits are more than 1 %, too', () => {
		const big: SidePads = {
			circuits: 2,
			classes: Array.from({ length: 400 }, () => 'chip'),
			sizes: Array.from({ length: 800 }, () => even(0.5)),
			refDes: Array.from({ length: 400 }, (_, i) => `R${Math.floor(i / 4)}`)
		};
		const all = (v: number) => Array.from({ length: 800 }, () => v);
		const of = (low: number[]) => {
			const volumePct = all(100);
			for (const i of low) volumePct[i] = 64;
			return judgeReadings(
				{ volumePct, heightUm: all(120), areaPct: all(100), offsetXUm: all(0), offsetYUm: all(0) },
				big,
				120,
				DEPOSIT_LIMITS
			);
		};
		expect(of([0, 1])).toMatchObject({ warnings: 2, result: 'pass' });
		expect(of([0, 1, 2])).toMatchObject({ warnings: 3, result: 'review' });
		// The part of the same name on the other circuit is another part.
		expect(of([0, 1, 402])).toMatchObject({ warnings: 3, result: 'pass' });
		expect(of([0, 8, 16, 24, 32, 40, 48, 56])).toMatchObject({ warnings: 8, result: 'pass' });
		expect(of([0, 8, 16, 24, 32, 40, 48, 56, 64])).toMatchObject({ warnings: 9, result: 'review' });
	});

	test('a bridge fails whatever was measured, and is counted', () => {
		expect(judge((r) => r.bridgedPads.push(3, 4))).toMatchObject({ fails: 2, bridges: 2, result: 'reject' });
		expect(judge((r) => r.bridgedPads.push(3)).worst).toEqual([{ pad: 3, code: 'bridge', volumePct: 100 }]);
	});

	test('the height goes by the foil as it was measured', () => {
		const low = (foilUm: number) =>
			judgeReadings(
				readings((r) => ((r.heightUm as number[])[0] = 65)),
				SIDE,
				foilUm,
				DEPOSIT_LIMITS
			).fails;
		// 55 % of 118 µm is 64.9 µm; of 119 µm it is 65.45 µm.
		expect([low(118), low(119)]).toEqual([0, 1]);
	});

	test('its drawing says the same of every pad as its summary', () => {
		const r = readings((x) => {
			(x.volumePct as number[]).splice(0, 4, 45, 64, NaN, 161);
			(x.bridgedPads as number[]).push(6);
		});
		const pads = judgePads(r, SIDE, 120, DEPOSIT_LIMITS);
		expect(pads.map((p) => p.level)).toEqual(['act', 'watch', 'noData', 'act', 'good', 'good', 'act', 'good']);
		expect(pads.map((p) => p.codes[0] ?? null)).toEqual(['insufficient', null, null, 'excess', null, null, 'bridge', null]);
	});

	test('readings of another length, and a bridge beyond the last pad, are refused with what is there', () => {
		expect(wrongLength(readings(), SIDE)).toBeNull();
		expect(
			wrongLength(
				readings((r) => (r.peakHeightUm as number[]).pop()),
				SIDE
			)
		).toBe('peakHeightUm has 7 values, the panel has 8 pads');
		expect(
			wrongLength(
				readings((r) => (r.bridgedPads as number[]).push(7)),
				SIDE
			)
		).toBeNull();
		expect(
			wrongLength(
				readings((r) => (r.bridgedPads as number[]).push(8)),
				SIDE
			)
		).toBe('bridgedPads names pad 8, the panel has 8');
	});

	test('what a machine left of its readings sums up to the same, and its spread can be had back', () => {
		const kept = fromSummary({
			classes: [
				{ padClass: 'chip', pads: 300, fails: 0, warnings: 2, meanVolumePct: 101, sdVolumePct: 8 },
				{ padClass: 'large', pads: 100, fails: 0, warnings: 2, meanVolumePct: 97, sdVolumePct: 5 }
			],
			worst: []
		});
		expect(kept).toMatchObject({ pads: 400, fails: 0, warnings: 4, meanVolumePct: 100, result: 'pass', offsetUm: null });
		const { pads, sum, sumSquares } = kept.classes[0]!;
		expect(sum / pads).toBe(101);
		expect(Math.sqrt((sumSquares - sum ** 2 / pads) / (pads - 1))).toBeCloseTo(8, 9);
		expect(fromSummary({ ...{ classes: [{ ...LAST, warnings: 5 }] }, worst: [] }).result).toBe('review');
		expect(fromSummary({ ...{ classes: [{ ...LAST, warnings: 4 }] }, worst: [] }).result).toBe('pass');
	});
});
const LAST = { padClass: 'chip' as const, pads: 400, fails: 0, meanVolumePct: 100, sdVolumePct: 6 };

describe('first-pass yield', () => {
	test('says a percentage from thirty units on', () => {
		expect(judgeYield('Optical', yieldOf(29, 29), 0.96, null)).toMatchObject({
			level: 'noData',
			statement: '29 of 29 passed at first; too few for a percentage.'
		});
		expect(judgeYield('Optical', yieldOf(30, 30), 0.96, null)).toMatchObject({ level: 'good', statement: '100.0 % pass at first.' });
		expect(judgeYield('Optical', yieldOf(0, 0), 0.96, null)).toMatchObject({
			level: 'noData',
			statement: 'Nothing inspected in this run yet.'
		});
	});

	test('acts only where chance does not explain what is missing, and names what fails most', () => {
		// 95 % interval of 180/200 by Wilson: 85.06 to 93.43 %; of 190/200: 91.04 to 97.26 %.
		const low = judgeYield('Optical', yieldOf(180, 200), 0.96, 'C46');
		expect(low).toMatchObject({ level: 'act', statement: '90.0 % pass at first, below the goal of 96.0 %.' });
		expect(low.doNext).toEqual(['Look at C46 first: it fails most']);
		expect(judgeYield('Optical', yieldOf(190, 200), 0.96, null)).toMatchObject({ level: 'watch', doNext: [] });
		expect(judgeYield('Optical', yieldOf(192, 200), 0.96, 'C46')).toMatchObject({ level: 'good', doNext: [] });
		expect(yieldOf(180, 200).high).toBeCloseTo(0.93433, 5);
		expect(judgeYield('Optical', yieldOf(180, 200), 0.9343, null).level).toBe('watch');
		expect(judgeYield('Optical', yieldOf(180, 200), 0.9344, null).level).toBe('act');
	});

	test('counts the earliest visit of each unit, in whatever order they are heard', () => {
		const visits = [
			{ unit: 'a', startedAt: 20, passed: true },
			{ unit: 'a', startedAt: 10, passed: false },
			{ unit: 'b', startedAt: 5, passed: true },
			{ unit: 'b', startedAt: 6, passed: false }
		];
		expect(firstPass(visits)).toMatchObject({ passed: 1, units: 2 });
		expect(firstPass([...visits].reverse())).toEqual(firstPass(visits));
	});
});
