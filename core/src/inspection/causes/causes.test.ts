import { describe, expect, test } from 'vitest';
import { InputError } from '../../judgement/index.ts';
import { seededRandom } from '../../numerics/index.ts';
import { transferEfficiency } from '../../stencil/index.ts';
import {
	baselineOf,
	CAUSES,
	checkThresholds,
	findSignatures,
	judgeSignatures,
	smallOpeningMeans,
	strokeMedians,
	SIGNATURE_THRESHOLDS,
	type CauseCode,
	type SignatureRun
} from './index.ts';
import { writtenRun as run } from './written-run.test-kit.ts';

const codes = (r: SignatureRun) => findSignatures(r).signatures.map((s) => s.code);
const one = (r: SignatureRun, code: CauseCode) => findSignatures(r).signatures.find((s) => s.code === code)!;

describe('what a run’s pads carry', () => {
	test('a baseline is each pad’s median; the small openings are the 40 % with the least area ratio', () => {
		const r = run({ noise: 0, volume: (m, p, pad) => (pad.areaRatio === 0.75 ? 0.8 : 1) + (m === 3 ? 2 : 0) });
		const baseline = baselineOf(r);
		const volume = (m: number, p: number) => r.volumePct[m * r.pads.length + p]!;
		baseline.forEach((share, p) => expect(share).toBeCloseTo(volume(0, p) / 100, 5));
		const order = r.pads.map((_, p) => p).sort((a, b) => r.pads[a]!.areaRatio - r.pads[b]!.areaRatio || a - b);
		const small = order.slice(0, 96);
		const means = smallOpeningMeans(r);
		for (const m of [0, 3, 29]) expect(means[m]!).toBeCloseTo(small.reduce((sum, p) => sum + volume(m, p), 0) / 96, 3);
	});
	test('front and rear strokes apart: each pad’s middle over the panels of one blade', () => {
		const r = run({ noise: 0, volume: (m, _, __, panel) => (panel.stroke === 'F' ? 1 : 0.8) + (m === 4 ? 3 : 0) });
		const [front, rear] = ['F', 'R'].map((stroke) => strokeMedians(r, stroke));
		expect([front!.panels, rear!.panels]).toEqual([15, 15]);
		front!.volumePct.forEach((v, p) => expect(v).toBeCloseTo(r.volumePct[p]!, 5));
		rear!.volumePct.forEach((v, p) => expect(v / front!.volumePct[p]!).toBeCloseTo(0.8, 5));
		expect(strokeMedians(run({ oneStroke: true }), 'R')).toMatchObject({ panels: 0 });
		expect(strokeMedians(run({ oneStroke: true }), 'R').heightUm[0]).toBeNaN();
	});
	test('readings that are missing are left out; a pad that was never read carries its nominal', () => {
		const r = run({ noise: 0 });
		const n = r.pads.length;
		for (let m = 0; m < r.panels.length; m++) r.volumePct[m * n + 7] = NaN;
		for (let p = 0; p < n; p++) r.volumePct[5 * n + p] = NaN;
		expect(baselineOf(r)[7]).toBe(1);
		expect(baselineOf(r)[8]).toBeCloseTo(r.volumePct[8]! / 100, 5);
		expect(smallOpeningMeans(r)[5]).toBeNaN();
		expect(smallOpeningMeans(r)[4]).toBeGreaterThan(50);
	});
});

describe('a run without a fault', () => {
	test('raises nothing', () => expect(codes(run())).toEqual([]));
	test('with a spread of a tenth a pad it still raises nothing', () => expect(codes(run({ noise: 0.1 }))).toEqual([]));
	test('a small sawtooth and a small stroke difference are no fault', () =>
		expect(
			codes(run({ volume: (_, __, ___, panel) => 1 - 0.004 * panel.printsSinceWipe + (panel.stroke === 'F' ? 0.008 : -0.008) }))
		).toEqual([]));
});

describe('what cannot be said is said', () => {
	test('eleven panels are too few for anything', () => {
		const report = findSignatures(run({ panels: 11 }));
		expect(report.signatures).toEqual([]);
		expect(report.notJudged[0]!.why).toContain('11 panels');
	});
	test('one-direction printing makes the stroke untestable, not zero', () => {
		const report = findSignatures(run({ oneStroke: true }));
		expect(report.notJudged.some((n) => n.codes.includes('STROKE_PAIR'))).toBe(true);
		expect(report.signatures).toEqual([]);
	});
	test('without a pause nothing is said of pauses', () => {
		expect(findSignatures(run()).notJudged.some((n) => n.codes.includes('ABANDON'))).toBe(true);
	});
	test('a wipe every second print cannot be told from the stroke: ambiguous, with the test that separates them', () => {
		const report = findSignatures(run({ wipeEvery: 2, volume: (_, __, ___, panel) => (panel.stroke === 'F' ? 1.06 : 0.94) }));
		const ambiguous = report.signatures.find((s) => s.code === 'AMBIGUOUS');
		expect(ambiguous?.candidates).toEqual(expect.arrayContaining(['STROKE_PAIR', 'CLOG_WIPE']));
		expect(CAUSES.AMBIGUOUS.test.length).toBeGreaterThan(10);
		expect(report.signatures.some((s) => s.code === 'STROKE_PAIR')).toBe(false);
	});
});

describe('each cause by its own statistic', () => {
	test('front and rear differ: the size is the difference in log-percent', () => {
		const s = one(run({ volume: (_, __, ___, panel) => (panel.stroke === 'F' ? 1.05 : 0.95) }), 'STROKE_PAIR');
		expect(s.size).toBeCloseTo(100 * Math.log(1.05 / 0.95), 0);
		expect(s.low).toBeLessThan(s.size);
		expect(s.high).toBeGreaterThan(s.size);
		expect(Math.abs(s.t!)).toBeGreaterThan(4);
	});
	test('small openings clog until the wipe', () => {
		const r = run({ volume: (_, __, pad, panel) => (pad.padClass === 'smallChip' ? 1 - 0.03 * panel.printsSinceWipe : 1) });
		expect(codes(r)).toContain('CLOG_WIPE');
		expect(codes(r)).not.toContain('PASTE_AGING');
	});
	test('paste that falls over the run, whatever the wipes', () => {
		const r = run({ volume: (m) => 1 - (0.14 * m) / 29 });
		expect(codes(r)).toContain('PASTE_AGING');
		expect(codes(r)).not.toContain('CLOG_WIPE');
	});
	test('a fall until the top-up', () => {
		expect(codes(run({ panels: 45, volume: (_, __, ___, panel) => 1 - 0.009 * panel.printsSinceTopup }))).toContain('TOPUP_STARVE');
	});
	test('the first print after a pause', () => {
		const pauseAt = [7, 14, 22];
		const r = run({ pauseAt, volume: (m, _, pad) => (pauseAt.includes(m) && pad.padClass === 'smallChip' ? 0.8 : 1) });
		expect(codes(r)).toContain('ABANDON');
	});
	test('one panel that has nothing to do with the others', () => {
		const s = one(run({ volume: (m) => (m === 11 ? 0.7 : 1) }), 'PANEL_OUTLIER');
		expect(s.where.panels).toEqual([11]);
	});
	test('more paste at one side of the blade', () => {
		const s = one(run({ volume: (_, __, pad) => 1 + 0.2 * (pad.xMm / 111 - 0.5) }), 'TILT_ACROSS');
		expect(s.size).toBeGreaterThan(15);
	});
	test('more paste at one end of the stroke', () => {
		expect(codes(run({ volume: (_, __, pad) => 1 - 0.2 * (pad.yMm / 81 - 0.5) }))).toContain('TILT_ALONG');
	});
	test('a whole print shifted, and only that', () => {
		const s = one(run({ offset: () => ({ x: 30, y: -20 }) }), 'ALIGN_SHIFT');
		expect(s.size).toBeCloseTo(Math.hypot(30, 20), 0);
		expect(codes(run({ offset: () => ({ x: 30, y: -20 }) }))).toEqual(['ALIGN_SHIFT']);
	});
	test('a turned print is a turn and not a shift', () => {
		const r = run({ offset: (_, pad) => ({ x: -0.6 * (pad.yMm - 40), y: 0.6 * (pad.xMm - 55) }) });
		expect(codes(r)).toContain('ALIGN_ROTATION');
		expect(codes(r)).not.toContain('ALIGN_SHIFT');
	});
	test('a stretched board is a stretch', () => {
		expect(codes(run({ offset: (_, pad) => ({ x: 0.6 * (pad.xMm - 55), y: 0.6 * (pad.yMm - 40) }) }))).toContain('ALIGN_STRETCH');
	});
	test('prints that land here and there', () => {
		const random = seededRandom(4);
		const at = Array.from({ length: 30 }, () => ({ x: 24 * random.normal(), y: 24 * random.normal() }));
		expect(codes(run({ offset: (m) => at[m]! }))).toContain('ALIGN_SCATTER');
	});
	test('strokes that land apart', () => {
		expect(codes(run({ offset: (_, __, panel) => ({ x: 0, y: panel.stroke === 'F' ? 15 : -15 }) }))).toContain('STROKE_OFFSET');
	});
	test('a blocked opening, by its pad', () => {
		const s = one(run({ volume: (m, p) => (p === 57 && m > 5 ? 0.4 : 1) }), 'APERTURE_BLOCKED');
		expect(s.where.pads).toContain(57);
	});
	test('a sagging place: its pads, and where it is', () => {
		const near = (pad: SignatureRun['pads'][number]) => Math.hypot(pad.xMm - 60, pad.yMm - 45) < 13;
		const s = one(run({ height: (_, pad) => (near(pad) ? 1.25 : 1) }), 'SUPPORT_LOCAL');
		expect(Math.hypot(s.where.at!.xMm - 60, s.where.at!.yMm - 45)).toBeLessThan(10);
	});
	test('a nick of one blade: the strip and its stroke', () => {
		const s = one(
			run({ panels: 40, volume: (_, __, pad, panel) => (panel.stroke === 'R' && pad.xMm >= 30 && pad.xMm < 42 ? 0.78 : 1) }),
			'BLADE_NICK'
		);
		expect(s.where.stroke).toBe('R');
		expect(s.where.stripMm![0]).toBeGreaterThan(20);
		expect(s.where.stripMm![1]).toBeLessThan(52);
	});
	test('paste that a nick leaves too high is the nick’s; a sag elsewhere is still the support’s', () => {
		const strip = (pad: SignatureRun['pads'][number]) => pad.xMm >= 40 && pad.xMm < 48;
		const nicked = {
			panels: 40,
			volume: (_: number, __: number, pad: SignatureRun['pads'][number], panel: SignatureRun['panels'][number]) =>
				panel.stroke === 'R' && strip(pad) ? 1.6 : 1
		};
		expect(codes(run({ ...nicked, height: (_, pad) => (strip(pad) ? 1.2 : 1) }))).toContain('BLADE_NICK');
		expect(codes(run({ ...nicked, height: (_, pad) => (strip(pad) ? 1.2 : 1) }))).not.toContain('SUPPORT_LOCAL');
		const sag = (pad: SignatureRun['pads'][number]) => Math.hypot(pad.xMm - 90, pad.yMm - 45) < 13;
		const both = run({ ...nicked, height: (_, pad) => (strip(pad) ? 1.2 : sag(pad) ? 1.3 : 1) });
		expect(codes(both)).toEqual(expect.arrayContaining(['BLADE_NICK', 'SUPPORT_LOCAL']));
		expect(Math.abs(one(both, 'SUPPORT_LOCAL').where.at!.xMm - 90)).toBeLessThan(10);
	});
	test('deposits too high everywhere', () => expect(codes(run({ height: () => 1.25 }))).toContain('GAP_HIGH'));
	test('large deposits scooped', () => expect(codes(run({ height: (_, pad) => (pad.minSideMm >= 1 ? 0.72 : 1) }))).toContain('SCOOP'));
	test('wide and low', () => expect(codes(run({ area: 1.2, height: () => 0.83 }))).toContain('SLUMP'));
	test('too little everywhere', () => expect(codes(run({ volume: () => 0.78 }))).toContain('LEVEL_LOW'));
	test('peaks on a tenth of the readings', () => {
		expect(codes(run({ peaks: 10 }))).toContain('PEAKS');
		expect(codes(run({ peaks: 2 }))).not.toContain('PEAKS');
	});
	test('bridges of a shifted print are the shift’s: the root stands before its symptom', () => {
		const found = codes(run({ offset: () => ({ x: 40, y: 0 }), bridges: () => 2 }));
		expect(found).toContain('BRIDGE_ALIGN');
		expect(found.indexOf('ALIGN_SHIFT')).toBeLessThan(found.indexOf('BRIDGE_ALIGN'));
	});
	test('bridges late after the wipe are the underside’s; bridges at any time are the pressure’s', () => {
		expect(codes(run({ panels: 40, wipeEvery: 10, bridges: (m) => (m % 10 > 5 ? 3 : 0) }))).toContain('BRIDGE_WIPE');
		expect(codes(run({ bridges: () => 1 }))).toContain('BRIDGE_PRESSURE');
	});
	test('readings that disagree with themselves are named before anything is believed', () => {
		const r = run();
		const wrong = { ...r, volumePct: (r.volumePct as Float32Array).map((v) => 1.16 * v) };
		expect(codes(wrong)[0]).toBe('MEASUREMENT');
	});
});

describe('the verdict on a run', () => {
	const strokes = findSignatures(run({ volume: (_m, _p, _pad, panel) => (panel.stroke === 'F' ? 1 : 0.85) }));
	const state = (s: Parameters<typeof judgeSignatures>[1]) => judgeSignatures(strokes, s);

	test('a cause that waits asks for its action; one that was acted on is watched until its panels are gone', () => {
		expect(strokes.signatures.map((s) => s.code)).toEqual(['STROKE_PAIR']);
		expect(state([])).toMatchObject({ level: 'act', doNext: [CAUSES.STROKE_PAIR.action, CAUSES.STROKE_PAIR.test] });
		expect(state([{ code: 'STROKE_PAIR', state: 'noBetter', answer: { statement: 'No better.' } }]).level).toBe('act');
		const done = state([{ code: 'STROKE_PAIR', state: 'done', answer: null }]);
		expect(done).toMatchObject({ level: 'watch', statement: 'Front and rear strokes differ. Acted on: too early to say.' });
		const better = state([{ code: 'STROKE_PAIR', state: 'better', answer: { statement: 'Better: 10.6 before, 1.1 since.' } }]);
		expect(better.statement).toContain('Better: 10.6 before, 1.1 since.');
		expect(better.because).toHaveLength(1);
	});

	test('nothing found is good; too little measured is no data', () => {
		expect(judgeSignatures(findSignatures(run())).level).toBe('good');
		expect(judgeSignatures(findSignatures(run({ panels: 8 }))).level).toBe('noData');
	});
});

describe('thresholds and baseline', () => {
	test('a higher threshold no longer names what a lower one did', () => {
		const r = run({ volume: (_, __, ___, panel) => (panel.stroke === 'F' ? 1.035 : 0.965) });
		expect(codes(r)).toContain('STROKE_PAIR');
		const lenient = findSignatures(r, undefined, { ...SIGNATURE_THRESHOLDS, strokeLp: 9 });
		expect(lenient.signatures.map((s) => s.code)).not.toContain('STROKE_PAIR');
	});
	test('against an approved baseline a plant’s own level is no fault', () => {
		const r = run({ volume: () => 0.78 });
		expect(codes(r)).toContain('LEVEL_LOW');
		const golden = r.pads.map((pad) => 0.78 * transferEfficiency(pad.areaRatio));
		expect(findSignatures(r, undefined, undefined, golden).signatures.map((s) => s.code)).not.toContain('LEVEL_LOW');
	});
	test('a baseline of another panel is refused', () => {
		expect(() => findSignatures(run(), undefined, undefined, [1, 1, 1])).toThrow('golden');
	});
	test('the model’s own thresholds pass their check', () => expect(() => checkThresholds(SIGNATURE_THRESHOLDS)).not.toThrow());
	test.each([
		['strokeLp', 500],
		['shiftUm', 0],
		['leastPanels', 12.5],
		['leastT', 2],
		['peakShare', Number.NaN]
	] as const)('%s of %d is refused by its name', (name, value) => {
		const refused = () => checkThresholds({ ...SIGNATURE_THRESHOLDS, [name]: value });
		expect(refused).toThrow(InputError);
		expect(refused).toThrow(name);
	});
	test('every cause says what to do and which cheap test separates it', () => {
		for (const text of Object.values(CAUSES)) {
			expect(text.action).toMatch(/^[A-Z]/);
			expect(text.test.length).toBeGreaterThan(8);
			expect(text.name).not.toMatch(/_/);
		}
	});
});
