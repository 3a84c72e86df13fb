import { describe, expect, test } from 'vitest';
import { InputError } from '../../judgement/index.ts';
import { transferEfficiency } from '../../stencil/index.ts';
import { confidenceOf, overThreshold } from './confidence.ts';
import { Facts } from './facts.ts';
import {
	causeText,
	CAUSES,
	checkThresholds,
	explainResiduals,
	findSignatures,
	judgeSignatures,
	SIGNATURE_THRESHOLDS,
	type CauseCode,
	type Signature,
	type SignatureReport
} from './index.ts';
import { checkRun, prepare } from './run.ts';
import { writtenRun, type Shape } from './written-run.test-kit.ts';

const run = (shape: Shape = {}) => writtenRun({ rows: 2, panels: 16, ...shape });

describe('how sure a name is', () => {
	test('at its threshold as its rule is known to be right, beyond it up to 99 %', () => {
		expect(confidenceOf({ certainty: 0.88 }, 1, 4)).toBe(0.88);
		expect(confidenceOf({ certainty: 0.88 }, 0.5, 9)).toBe(0.88);
		// Half again the threshold with a |t| of 7: the smaller margin counts, here 1 of both.
		expect(confidenceOf({ certainty: 0.88 }, 1.4, 7)).toBeCloseTo(0.88 + 0.11 * (1 - Math.exp(-1.6)), 12);
		expect(confidenceOf({ certainty: 0.88 }, 1.4, -5.5)).toBeCloseTo(0.88 + 0.11 * (1 - Math.exp(-0.8)), 12);
		expect(confidenceOf({ certainty: 0.88 }, 1.2, 40)).toBeCloseTo(0.88 + 0.11 * (1 - Math.exp(-0.8)), 12);
		expect(confidenceOf({ certainty: 0.88 }, 1.2, 3)).toBe(0.88);
		// A rule without a t stops at one and a half.
		expect(confidenceOf({ certainty: 0.88 }, 9, null)).toBeCloseTo(0.88 + 0.11 * (1 - Math.exp(-2.4)), 12);
	});
	test('over a threshold above or below', () => {
		expect(overThreshold({}, -10, 5)).toBe(2);
		expect(overThreshold({ below: true }, 0.76, 0.88)).toBeCloseTo(2, 12);
	});
});

describe('what every cause reads', () => {
	test('the small openings are the 40 % with the least area ratio', () => {
		const p = prepare(run());
		expect(p.smallest).toHaveLength(19);
		expect([...p.smallest].every((pad) => p.run.pads[pad]!.areaRatio === 0.75)).toBe(true);
	});
	test('a residual is 100·ln of the volume over what is expected; below 5 % it is that of 5 %', () => {
		const r = run({ noise: 0 });
		r.volumePct[0] = 100 * transferEfficiency(r.pads[0]!.areaRatio) * Math.exp(0.1);
		r.volumePct[1] = 2;
		r.volumePct[2] = NaN;
		const p = prepare(r);
		expect(p.r[0]).toBeCloseTo(10, 4);
		expect(p.r[1]).toBeCloseTo(100 * Math.log(0.05 / transferEfficiency(r.pads[1]!.areaRatio)), 4);
		expect(p.md[0]).toBeCloseTo(0, 4);
		expect(p.hr[0]).toBeCloseTo(1, 5);
		expect(p.ar[0]).toBeCloseTo(1, 5);
		// What was not read counts nowhere.
		expect(p.pa[0]).toBeCloseTo(0, 4);
		const golden = r.pads.map(() => 0.5);
		const against = prepare(r, undefined, golden);
		expect(against.r[0]! - p.r[0]!).toBeCloseTo(100 * Math.log(transferEfficiency(r.pads[0]!.areaRatio) / 0.5), 3);
		expect(against.expected[0]).toBe(0.5);
	});
	test('the panel is moved, not the pads’ own level: its middle over all pads, and over the small', () => {
		const p = prepare(run({ noise: 0, volume: (m, _, pad) => (m === 4 && pad.areaRatio === 0.75 ? 0.9 : m === 5 ? 1.1 : 1) }));
		expect(p.ps[4]).toBeCloseTo(100 * Math.log(0.9), 3);
		expect(p.pa[5]).toBeCloseTo(100 * Math.log(1.1), 3);
		expect(p.ps[5]).toBeCloseTo(100 * Math.log(1.1), 3);
	});
	test('places go from −1 to 1 over the box of the pads, along and across the stroke', () => {
		const r = run();
		const p = prepare(r);
		const [first, last] = [0, r.pads.length - 1];
		expect([p.across[first], p.along[first], p.across[last], p.along[last]]).toEqual([-1, -1, 1, 1]);
		expect(p.centre).toEqual({ x: 55.5, y: 4.5 });
		expect(p.rMaxMm).toBeCloseTo(Math.hypot(55.5, 4.5), 12);
		expect(p.acrossMm[last]).toBe(111);
		const x = prepare({ ...r, strokeAxis: 'x' });
		expect([...x.along.slice(0, 3)]).toEqual([...p.across.slice(0, 3)]);
		expect(x.acrossMm[last]).toBe(9);
	});
	test('levels: height, area and volume in the middle, large deposits apart', () => {
		const r = run({ noise: 0, rows: 4, height: (_, pad) => (pad.minSideMm >= 1 ? 0.8 : 1.1) });
		const { height, volume, large, others } = new Facts(prepare(r), SIGNATURE_THRESHOLDS).levels;
		expect(height).toBeCloseTo(1.1, 5);
		expect(volume).toBeCloseTo(1.1, 5);
		expect(large.value).toBeCloseTo(0.8, 5);
		expect([large.n, others.n]).toEqual([16, 80]);
		expect(others.value).toBeCloseTo(1.1, 5);
	});
	test('wipes are counted where the count begins again', () => {
		expect(new Facts(prepare(run({ wipeEvery: 5 })), SIGNATURE_THRESHOLDS).wipes).toBe(3);
		expect(new Facts(prepare(run({ wipeEvery: 1 })), SIGNATURE_THRESHOLDS).wipes).toBe(15);
		expect(new Facts(prepare(run({ wipeEvery: 99 })), SIGNATURE_THRESHOLDS).wipes).toBe(0);
	});
	test('readings of another count are refused by name', () => {
		const r = run();
		for (const key of ['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm'] as const) {
			const short = () => checkRun({ ...r, [key]: r[key].slice(1) });
			expect(short).toThrow(InputError);
			expect(short).toThrow(key);
		}
		expect(() => checkRun(r)).not.toThrow();
	});
});

describe('what the report says beside the causes', () => {
	test('twelve panels and thirty pads are enough, one less of either is not', () => {
		const few = (panels: number, rows: number, pads = 48) => {
			const r = run({ panels, rows });
			const cut = (values: Float32Array) =>
				Float32Array.from(r.panels.flatMap((_, m) => [...values.slice(m * r.pads.length, m * r.pads.length + pads)]));
			const own = pads === r.pads.length ? r : { ...r, pads: r.pads.slice(0, pads) };
			return findSignatures({
				...own,
				...Object.fromEntries((['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm'] as const).map((k) => [k, cut(r[k])]))
			});
		};
		expect(few(12, 2).series.all).toHaveLength(12);
		expect(few(11, 2)).toMatchObject({ series: { all: [] }, blindShare: 1, panels: 11, pads: 48 });
		expect(few(12, 2, 30).series.all).toHaveLength(12);
		expect(few(12, 2, 29).notJudged).toEqual([{ codes: [], why: '12 panels and 29 pads; 12 and 30 are needed.', test: 'Print on' }]);
	});

	test('every gap, why, and what would close it', () => {
		const { notJudged } = findSignatures(run({ wipeEvery: 99, oneStroke: true }));
		expect(notJudged).toContainEqual({
			codes: ['STROKE_OFFSET', 'STROKE_PAIR', 'BLADE_NICK'],
			why: '16 front and 0 rear strokes; 4 of each are needed.',
			test: 'Print with both blades'
		});
		expect(notJudged).toContainEqual({
			codes: ['CLOG_WIPE'],
			why: '0 wipes in this run; 2 are needed.',
			test: 'Print on over the next wipe'
		});
		// Without a wipe its count is the time.
		expect(notJudged).toContainEqual({
			codes: ['CLOG_WIPE', 'PASTE_AGING'],
			why: 'This run moved small openings clog between wipes and paste fades over the run together.',
			test: 'Wipe now and compare the next 4 panels'
		});
		expect(notJudged).toContainEqual({
			codes: ['STROKE_PAIR', 'ABANDON'],
			why: 'These did not change in this run, or too rarely.',
			test: 'Print on; vary them once'
		});
		const whole = findSignatures(run({ panels: 32, pauseAt: [6, 17] })).notJudged;
		expect(whole).toEqual([]);
		const alternate = findSignatures(run({ wipeEvery: 2 })).notJudged;
		expect(alternate.find((n) => n.codes[0] === 'STROKE_PAIR')!.test).toBe('Wipe every 3 prints for 9 panels');
	});

	test('places without four pads in reach are blind', () => {
		// Parts 10 mm apart with two pads each: within 7.5 mm of a place lie two parts almost everywhere.
		expect(findSignatures(run({ rows: 6 })).blindShare).toBeLessThan(0.6);
		const spread = run();
		expect(findSignatures({ ...spread, pads: spread.pads.map((p) => ({ ...p, xMm: 10 * p.xMm })) }).blindShare).toBe(1);
		expect(findSignatures({ ...spread, pads: spread.pads.map((p) => ({ ...p, xMm: p.xMm / 20, yMm: p.yMm / 20 })) }).blindShare).toBe(0);
	});

	test('an interval of 95 % about each size', () => {
		const [s] = findSignatures(run({ volume: (_, __, ___, panel) => (panel.stroke === 'F' ? 1.06 : 0.94) })).signatures;
		expect(s!.code).toBe('STROKE_PAIR');
		expect(s!.high - s!.size).toBeCloseTo((1.96 * Math.abs(s!.size)) / Math.abs(s!.t!), 9);
		expect(s!.size - s!.low).toBeCloseTo(s!.high - s!.size, 9);
		expect(s).toMatchObject({ unit: 'lp', threshold: 5 });
		expect(s!.confidence).toBeGreaterThan(0.95);
	});

	test('readings first, then the surer, then symptoms, panels that stand out last', () => {
		const r = run({
			panels: 32,
			offset: () => ({ x: 60, y: 0 }),
			volume: (m, _, __, panel) => (m === 20 ? 0.6 : panel.stroke === 'F' ? 1.06 : 0.94),
			bridges: () => 1
		});
		const wrong = { ...r, volumePct: r.volumePct.map((v) => 1.2 * v) as Float32Array };
		const codes = findSignatures(wrong).signatures.map((s) => s.code);
		expect(codes[0]).toBe('MEASUREMENT');
		expect(codes.slice(-2)).toEqual(['BRIDGE_ALIGN', 'PANEL_OUTLIER']);
		expect(codes.slice(1, -2).sort()).toEqual(['ALIGN_SHIFT', 'STROKE_PAIR']);
		const sure = findSignatures(wrong).signatures.slice(1, -2);
		expect(sure[0]!.confidence).toBeGreaterThanOrEqual(sure[1]!.confidence);
	});
});

describe('the verdict', () => {
	const signature = (code: CauseCode, own: Partial<Signature> = {}): Signature => ({
		...{ code, size: 9.44, low: 8, high: 11, unit: 'lp', threshold: 5, t: -6.04, confidence: 0.97, where: {}, evidence: 'E.', ...own }
	});
	const report = (signatures: Signature[], own: Partial<SignatureReport> = {}): SignatureReport => ({
		...{ signatures, notJudged: [], panels: 20, pads: 50, series: { all: [], small: [] }, blindShare: 0, ...own }
	});

	test('readings that cannot be believed stop; another cause asks for its act', () => {
		expect(judgeSignatures(report([signature('MEASUREMENT')])).level).toBe('stopped');
		const act = judgeSignatures(report([signature('STROKE_PAIR'), signature('PEAKS', { size: 0.094, low: 0.08, high: 0.11, t: null })]));
		expect(act).toMatchObject({ level: 'act', statement: 'Front and rear strokes differ. E.' });
		expect(act.because.map((b) => [b.value, b.limit])).toEqual([
			['9.4 (8.0 to 11.0)', 'names it from 5, and |t| of 4: 6.0'],
			['0.09 (0.08 to 0.11)', 'names it from 5']
		]);
	});

	test('one that waits comes before one that was acted on; laid aside it asks for nothing', () => {
		const two = report([signature('STROKE_PAIR'), signature('CLOG_WIPE')]);
		expect(judgeSignatures(two, [{ code: 'STROKE_PAIR', state: 'done', answer: null }]).statement).toContain(CAUSES.CLOG_WIPE.name);
		const one = report([signature('STROKE_PAIR')]);
		expect(judgeSignatures(one, [{ code: 'CLOG_WIPE', state: 'done', answer: null }]).level).toBe('act');
		expect(judgeSignatures(one, [{ code: 'STROKE_PAIR', state: 'open', answer: null }]).level).toBe('act');
		expect(judgeSignatures(one, [{ code: 'STROKE_PAIR', state: 'dismissed', answer: null }])).toMatchObject({
			level: 'watch',
			statement: 'Front and rear strokes differ. Laid aside.',
			doNext: []
		});
		expect(judgeSignatures(one, [{ code: 'STROKE_PAIR', state: 'done', answer: null }]).doNext).toHaveLength(1);
	});

	test('nothing measured, too little, or nothing that stands out', () => {
		const why = { codes: [], why: 'Too few.', test: '' };
		expect(judgeSignatures(report([], { panels: 0, notJudged: [why] }))).toMatchObject({ level: 'noData', statement: 'Too few.' });
		expect(judgeSignatures(report([], { panels: 0 })).statement).toBe('Too few panels.');
		expect(judgeSignatures(report([], { notJudged: [{ ...why, codes: ['ABANDON'] }, why] }))).toMatchObject({ level: 'noData' });
		expect(judgeSignatures(report([], { notJudged: [{ ...why, codes: ['ABANDON'] }] }))).toMatchObject({
			level: 'good',
			statement: 'Nothing stands out in the latest 20 panels.'
		});
	});
});

describe('thresholds', () => {
	test('a tenth to ten times the value to start from; counts are whole; |t| is 3 at least', () => {
		const with_ = (own: object) => () => checkThresholds({ ...SIGNATURE_THRESHOLDS, ...own });
		expect(with_({ shiftUm: 2.5 })).not.toThrow();
		expect(with_({ shiftUm: 2.49 })).toThrow('shiftUm');
		expect(with_({ shiftUm: 250 })).not.toThrow();
		expect(with_({ shiftUm: 250.1 })).toThrow('shiftUm');
		expect(with_({ leastT: 3 })).not.toThrow();
		expect(with_({ leastT: 2.99 })).toThrow('below it clean runs alarm by chance');
		expect(with_({ leastT: 3.5 })).not.toThrow();
		expect(with_({ leastPads: 30.5 })).toThrow('a whole number');
	});
	test('the words of a cause are data', () =>
		expect(causeText('SLUMP')).toEqual({
			name: CAUSES.SLUMP.name,
			cause: CAUSES.SLUMP.cause,
			action: CAUSES.SLUMP.action,
			test: CAUSES.SLUMP.test
		}));
});

describe('how much of the residuals a few patterns explain', () => {
	const first = (shape: Shape) => explainResiduals(run({ noise: 0.002, ...shape })).steps[0];

	test.each([
		['front against rear, all pads', { volume: (_m, _p, _pad, panel) => (panel.stroke === 'F' ? 1.05 : 0.95) }],
		[
			'prints since the wipe, small pads',
			{ volume: (_m, _p, pad, panel) => (pad.areaRatio === 0.75 ? 1 - 0.03 * panel.printsSinceWipe : 1) }
		],
		['time in the run, all pads', { volume: (m) => 1 - 0.01 * m }],
		['prints since the top-up, all pads', { panels: 45, volume: (_m, _p, _pad, panel) => 1 - 0.01 * panel.printsSinceTopup }],
		['after a pause, all pads', { pauseAt: [4, 11], volume: (m) => (m === 4 || m === 11 ? 0.85 : 1) }],
		['across the blade', { volume: (_m, _p, pad) => 1 + 0.2 * (pad.xMm / 111 - 0.5) }],
		['along the stroke', { volume: (_m, _p, pad) => 1 + 0.2 * (pad.yMm / 9 - 0.5) }]
	] as [string, Shape][])('%s', (pattern, shape) => {
		const step = first(shape)!;
		expect(step.pattern).toBe(pattern);
		expect(step.share).toBeGreaterThan(0.75);
		expect(step.share).toBeLessThanOrEqual(1);
	});

	test('two at once, the larger first; what is left adds up to the whole', () => {
		const { steps, unexplained } = explainResiduals(
			run({
				noise: 0.002,
				volume: (_, __, pad, panel) => (panel.stroke === 'F' ? 1.06 : 0.94) + 0.08 * (pad.xMm / 111 - 0.5)
			})
		);
		expect(steps.slice(0, 2).map((s) => s.pattern)).toEqual(['front against rear, all pads', 'across the blade']);
		expect(steps.reduce((sum, s) => sum + s.share, 0) + unexplained).toBeCloseTo(1, 6);
		expect(unexplained).toBeLessThan(0.05);
		steps.slice(1).forEach((s, i) => expect(s.bic).toBeLessThan(steps[i]!.bic));
	});

	test('noise is explained by nothing', () => {
		const { steps, unexplained } = explainResiduals(run({ noise: 0.05 }));
		expect(steps).toEqual([]);
		expect(unexplained).toBe(1);
	});

	test('a reading that is missing or far off counts as a bounded one', () => {
		const r = run({ noise: 0.002, volume: (_m, _p, _pad, panel) => (panel.stroke === 'F' ? 1.05 : 0.95) });
		r.volumePct[5] = NaN;
		r.volumePct[9] = 1e-3;
		const { steps, unexplained } = explainResiduals(r);
		expect(steps[0]!.pattern).toBe('front against rear, all pads');
		// One reading at −60 lp against 768 at 5: 3600 of 22,800.
		expect(unexplained).toBeGreaterThan(0.1);
		expect(unexplained).toBeLessThan(0.25);
	});
});
