import { describe, expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import {
	afterWipe,
	CHART_BASELINE,
	classReports,
	DEPOSIT_LIMITS,
	withBaseline,
	withoutGroups,
	withoutStrokeAndWipe,
	type SignatureRun
} from './index.ts';

/** Panels of 20 small chips and 10 leads: a stroke difference, a fall between wipes on the leads, spread of single pads. */
function run({ panels = 40, wipeEvery = 5, stroke = 3, fall = -1, sigma = 4, level = 95 } = {}): SignatureRun {
	const random = seededRandom(17);
	const pads = Array.from({ length: 30 }, (_, i) => ({
		name: `P${i}`,
		refDes: `P${i}`,
		padClass: i < 20 ? 'smallChip' : 'fineLead',
		xMm: i,
		yMm: 0,
		minSideMm: 0.3,
		areaRatio: 0.8
	}));
	const list = Array.from({ length: panels }, (_, m) => ({
		serial: `J-1-${m}`,
		tMin: m,
		stroke: m % 2 ? 'R' : 'F',
		printsSinceWipe: m % wipeEvery,
		printsSinceTopup: m,
		minutesSincePrevious: 1
	}));
	const blank = () => new Float32Array(pads.length * panels).fill(100);
	const volumePct = blank();
	list.forEach((p, m) =>
		pads.forEach((pad, i) => {
			volumePct[m * pads.length + i] =
				level +
				(p.stroke === 'F' ? stroke / 2 : -stroke / 2) +
				(pad.padClass === 'fineLead' ? fall * p.printsSinceWipe : 0) +
				sigma * random.normal();
		})
	);
	return {
		pads,
		panels: list,
		volumePct,
		heightUm: blank(),
		areaPct: blank(),
		offsetXUm: blank(),
		offsetYUm: blank(),
		foilUm: 100,
		strokeAxis: 'y'
	};
}

describe('a series without its groups', () => {
	test('groups of the same shape fall together and the level stays', () => {
		expect(withoutGroups([90, 100, 91, 101, 92, 102], (i) => (i % 2 ? 'R' : 'F'))).toEqual([95, 95, 96, 96, 97, 97]);
	});
	test('groups of fewer than three stay as they are', () => {
		expect(withoutGroups([90, 90, 90, 120], (i) => (i === 3 ? 'odd' : 'even'))[3]).toBe(120);
	});
});

test('a run without a panel yet has no series, whatever is taken out', () => {
	expect(withoutStrokeAndWipe([], [])).toEqual({ noStroke: [], cleared: [] });
});

describe('classes of a run', () => {
	test('panels without a reading of a class are left out of its chart; a class with too few is not reported', () => {
		const r = run();
		const blank = (padClass: string, panels: number[]) =>
			r.pads.forEach((pad, p) => pad.padClass === padClass && panels.forEach((m) => (r.volumePct[m * 30 + p] = NaN)));
		blank('fineLead', [3, 9]);
		blank('smallChip', [...Array(38).keys()]);
		const reports = classReports(r, DEPOSIT_LIMITS);
		expect(reports.map((c) => c.padClass)).toEqual(['fineLead']);
		expect(reports[0]!.series.map((s) => s.serial)).not.toContain('J-1-3');
		expect(reports[0]!.series).toHaveLength(38);
	});
	test('only classes that have pads are reported, with their number', () => {
		expect(classReports(run(), DEPOSIT_LIMITS).map((c) => [c.padClass, c.pads])).toEqual([
			['smallChip', 20],
			['fineLead', 10]
		]);
	});
	test('the stroke difference does not widen the chart', () => {
		const [narrow, wide] = [run({ stroke: 0 }), run({ stroke: 12 })].map((r) => classReports(r, DEPOSIT_LIMITS)[0]!.chart);
		expect(wide!.upper - wide!.lower).toBeLessThan(1.15 * (narrow!.upper - narrow!.lower));
	});
	test('the sawtooth between wipes does not widen the chart either', () => {
		const [flat, saw] = [run({ fall: 0 }), run({ fall: -3 })].map((r) => classReports(r, DEPOSIT_LIMITS)[1]!.chart);
		expect(saw!.upper - saw!.lower).toBeLessThan(1.3 * (flat!.upper - flat!.lower));
	});
	test('the fall of the leads is measured, that of the chips is none', () => {
		const [chips, leads] = classReports(run({ fall: -1.5 }), DEPOSIT_LIMITS);
		expect(leads!.advice.b).toBeCloseTo(-1.5, 0);
		expect(Math.abs(chips!.advice.b)).toBeLessThan(0.4);
		expect(chips!.advice.allows).toBeNull();
		expect(leads!.wipe.slope).toBe(leads!.advice.b);
		expect(chips!.wipe.slope).toBeLessThanOrEqual(0);
	});
	test('capability is that of the spread within a pad, whatever the pads’ own means', () => {
		const sigma = classReports(run({ stroke: 0, fall: 0, sigma: 4 }), DEPOSIT_LIMITS)[0]!.capability!.sigma;
		expect(sigma).toBeGreaterThan(3.5);
		expect(sigma).toBeLessThan(4.5);
	});
	test('readings that are missing are left out', () => {
		const holed = run();
		for (let m = 0; m < holed.panels.length; m++) (holed.volumePct as Float32Array)[m * 30] = NaN;
		const [chips] = classReports(holed, DEPOSIT_LIMITS);
		expect(chips!.series.every((s) => Number.isFinite(s.value))).toBe(true);
	});
	test('limits of the plant are the ones that the class is held to', () => {
		const limits = {
			...DEPOSIT_LIMITS,
			smallChip: { ...DEPOSIT_LIMITS.smallChip, volumePct: { fail: [80, 110] as [number, number], warn: [85, 105] as [number, number] } }
		};
		expect(classReports(run(), limits)[0]!.limits).toEqual({ low: 80, high: 110 });
		expect(classReports(run(), limits)[0]!.capability!.cpk).toBeLessThan(classReports(run(), DEPOSIT_LIMITS)[0]!.capability!.cpk);
	});
});

describe('the print right after a wipe', () => {
	const random = seededRandom(5);
	const series = (lost: number, prints = 40) =>
		Array.from({ length: prints }, (_, i) => {
			const sinceWipe = i % 8;
			return { sinceWipe, meanPct: 95 - 0.6 * sinceWipe - (sinceWipe === 0 ? lost : 0) + 0.4 * random.normal() };
		});

	test('what it lost is told from the drift of the later ones', () => {
		const found = afterWipe(series(4))!;
		expect(found.prints).toBe(5);
		expect(found.pct).toBeGreaterThan(-4.8);
		expect(found.pct).toBeLessThan(-3.2);
		expect(Math.abs(found.pct)).toBeGreaterThan(found.within);
	});

	test('where it lost nothing, nothing is told, in nineteen of twenty', () => {
		const told = Array.from({ length: 200 }, () => afterWipe(series(0))!).filter((f) => Math.abs(f.pct) > f.within);
		expect(told.length).toBeLessThan(25);
	});

	test('too few prints show nothing', () => {
		expect(afterWipe(series(4, 15))).toBeNull();
		expect(afterWipe(series(4).map((r) => ({ ...r, sinceWipe: r.sinceWipe % 2 })))).toBeNull();
	});
});

describe('a baseline that stands', () => {
	const firstOf = (n: number) => (serial: string) => Number(serial.split('-')[2]) < n;
	test('the limits of a chart are the same whatever comes after its baseline, and a shift after it is beyond them', () => {
		const all = run({ panels: 60, sigma: 2 });
		for (let m = 30; m < 60; m++) for (let p = 0; p < 30; p++) all.volumePct[m * 30 + p]! += 6;
		const [frozen] = classReports(all, DEPOSIT_LIMITS, firstOf(CHART_BASELINE));
		const early = { ...all, panels: all.panels.slice(0, 40), volumePct: all.volumePct.slice(0, 40 * 30) };
		const [before] = classReports(early, DEPOSIT_LIMITS, firstOf(CHART_BASELINE));
		for (const limit of ['centre', 'lower', 'upper'] as const) expect(frozen!.chart[limit]).toBe(before!.chart[limit]);
		expect(frozen!.chart.baseline).toBe(CHART_BASELINE);
		expect(frozen!.chart.beyond.filter((i) => i >= 30).length).toBeGreaterThan(25);
		// Limits that moved with every panel would have followed it.
		const [moving] = classReports(all, DEPOSIT_LIMITS);
		expect(moving!.chart.centre - frozen!.chart.centre).toBeGreaterThan(2);
	});
	test('what strokes do is what they did in the baseline', () => {
		const values = [90, 100, 91, 101, 92, 102, 80, 112];
		const groupOf = (i: number) => (i % 2 ? 'R' : 'F');
		expect(withoutGroups(values, groupOf, (i) => i < 6).slice(6)).toEqual([85, 107]);
		expect(withoutGroups(values, groupOf, () => false)).toEqual(values);
	});
	test('its panels come along when they are no longer the latest, each once; taken anew it begins elsewhere', () => {
		const all = Array.from({ length: 100 }, (_, i) => i);
		const early = withBaseline(all, 0, 40);
		expect(early.baseline).toEqual(all.slice(0, 25));
		expect(early.panels).toEqual([...all.slice(0, 25), ...all.slice(60)]);
		const anew = withBaseline(all, 75, 40);
		expect([anew.baseline, anew.panels]).toEqual([all.slice(75), all.slice(60)]);
		expect(withBaseline(all.slice(0, 10), 0, 40)).toEqual({ panels: all.slice(0, 10), baseline: all.slice(0, 10) });
	});
});
