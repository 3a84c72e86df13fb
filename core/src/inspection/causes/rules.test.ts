import { describe, expect, test } from 'vitest';
import type { Finding } from './cause.ts';
import { bridgesOf } from './bridges.ts';
import { CAUSES, SIGNATURE_THRESHOLDS, type CauseCode, type Signature } from './index.ts';
import type { Facts } from './facts.ts';
import type { Factor, FactorFit } from './regress.ts';

// Each rule on facts that are written down: what it is named from, on both sides of it, and where it points.

const fit = (effects: FactorFit['effects'], more: Partial<FactorFit> = {}): FactorFit => ({
	effects,
	reach: { stroke: 0.5, wipe: 4, time: 1, topup: 10, pause: 1 },
	outliers: [],
	notTestable: [],
	ambiguous: [],
	...more
});
const effect = (factor: Factor, value: number, t: number): FactorFit['effects'] => ({ [factor]: { value, error: Math.abs(value / t), t } });
const facts = (own: object) => ({ th: SIGNATURE_THRESHOLDS, ...own }) as unknown as Facts;
const find = (code: CauseCode, own: object, found: readonly Pick<Signature, 'code'>[] = []): readonly Finding[] =>
	CAUSES[code].find(facts(own), found as Signature[]);
const named = (code: CauseCode, own: object) => find(code, own).length === 1;

describe('what changes with a factor of the run', () => {
	const byFactor = [
		// code, factor, fit that it reads, slope at the threshold, what the slope adds up to
		['STROKE_PAIR', 'stroke', 'all', 5, 1],
		['CLOG_WIPE', 'wipe', 'small', -1.5, 4],
		['PASTE_AGING', 'time', 'all', -8, 1],
		['TOPUP_STARVE', 'topup', 'all', -0.6, 10],
		['ABANDON', 'pause', 'small', -8, 1]
	] as const;
	const own = (of: 'all' | 'small', effects: FactorFit['effects'], more: object = {}) => ({
		...{ all: fit({}), small: fit({}), wipes: 2, p: { smallest: Int32Array.of(3, 5) } },
		[of]: fit(effects),
		...more
	});

	test.each(byFactor)('%s is named from its size and from a |t| of 4 on', (code, factor, of, slope, reach) => {
		const [found] = find(code, own(of, effect(factor, slope, -4)));
		expect(found!.size).toBeCloseTo(slope * reach, 12);
		expect(found!.t).toBe(-4);
		expect(found!.error).toBeCloseTo(Math.abs(slope * reach) / 4, 12);
		expect(named(code, own(of, effect(factor, slope * 0.999, 9)))).toBe(false);
		expect(named(code, own(of, effect(factor, slope, 3.99)))).toBe(false);
		expect(named(code, own(of, effect(factor, slope, -3.99)))).toBe(false);
		expect(named(code, own(of, {}))).toBe(false);
		// The other fit says nothing of it.
		expect(named(code, own(of === 'all' ? 'small' : 'all', effect(factor, 2 * slope, 9)))).toBe(false);
		expect(CAUSES[code].threshold(SIGNATURE_THRESHOLDS)).toBeCloseTo(Math.abs(slope * reach), 12);
	});

	test.each(byFactor.slice(1))('%s is a loss: more paste is none', (code, factor, of, slope) => {
		expect(named(code, own(of, effect(factor, -2 * slope, 9)))).toBe(false);
	});

	test.each(byFactor)('%s after an action is the same slope added up', (code, factor, of, slope, reach) => {
		const value = CAUSES[code].statistic!(facts(own(of, effect(factor, slope, 5))), {})!;
		expect(value.value).toBeCloseTo(slope * reach, 12);
		expect(value.error).toBeCloseTo(Math.abs(slope * reach) / 5, 12);
		expect(CAUSES[code].statistic!(facts(own(of, {})), {})).toBeNull();
	});

	test('strokes: which one prints less, whichever way round', () => {
		const [rear] = find('STROKE_PAIR', own('all', effect('stroke', 5, 6)));
		expect(rear).toMatchObject({ where: { stroke: 'R' }, evidence: 'Rear strokes print 4.9 % less than the others.' });
		const [front] = find('STROKE_PAIR', own('all', effect('stroke', -5, -6)));
		expect(front).toMatchObject({ where: { stroke: 'F' }, evidence: 'Front strokes print 4.9 % less than the others.' });
	});

	test('clogging needs two wipes, and points at the small openings', () => {
		expect(named('CLOG_WIPE', own('small', effect('wipe', -2, -9), { wipes: 1 }))).toBe(false);
		expect(find('CLOG_WIPE', own('small', effect('wipe', -2, -9)))[0]!.where).toEqual({ pads: [3, 5] });
	});

	test('what moved together in this run is named with both, the nearer pair first', () => {
		const small = fit(
			{},
			{
				ambiguous: [
					['stroke', 'wipe'],
					['time', 'topup'],
					['time', 'pause']
				]
			}
		);
		const [found] = find('PASTE_AGING', own('all', effect('time', -9, -5), { small }));
		expect(found).toMatchObject({ candidates: ['PASTE_AGING', 'ABANDON'], evidence: expect.stringContaining('It could as well be') });
		const [stroke] = find('STROKE_PAIR', own('all', effect('stroke', 6, 5), { small }));
		expect(stroke!.candidates).toEqual(['STROKE_PAIR', 'CLOG_WIPE']);
		// The second of a pair was not fitted: it is no name of its own.
		const [alone] = find('TOPUP_STARVE', own('all', effect('topup', -1, -5), { small }));
		expect(alone!.candidates).toBeUndefined();
	});

	test('a panel that stands out, by its place in the run', () => {
		const pa = [1, -2, 3, -12];
		const run = { panels: ['A', 'B', 'C', 'D'].map((serial) => ({ serial })) };
		const found = find('PANEL_OUTLIER', { all: fit({}, { outliers: [3] }), p: { pa, run } });
		expect(found).toEqual([{ size: -12, error: 0, where: { panels: [3] }, evidence: 'D carries −11.3 % against its neighbours.' }]);
		expect(find('PANEL_OUTLIER', { all: fit({}), p: { pa, run } })).toEqual([]);
		// Half of 1, 2, 3 and 12 lies above 2.5.
		expect(CAUSES.PANEL_OUTLIER.statistic!(facts({ p: { pa } }), {})!.value).toBe(2.5);
	});
});

describe('where prints land', () => {
	const still = (n: number, value: number) => Array.from({ length: n }, () => value);
	const about = (n: number, value: number, by: number) => Array.from({ length: n }, (_, i) => value + (i % 2 ? by : -by));
	const strokes = (n: number) => Array.from({ length: n }, (_, i) => ({ stroke: i % 4 < 2 ? 'F' : 'R' }));
	const offsets = (own: object, n = 8) => ({
		offsets: { tx: still(n, 0), ty: still(n, 0), theta: still(n, 0), stretch: still(n, 0), ...own },
		p: { rMaxMm: 50, run: { panels: strokes(n), strokeAxis: 'y' } }
	});

	test('a shift is the length of the middle move, from above 25 µm on', () => {
		const [found] = find('ALIGN_SHIFT', offsets({ tx: about(8, 16, 2), ty: still(8, -20) }));
		expect(found!.size).toBeCloseTo(Math.hypot(16, 20), 12);
		// Half-width of a median's error: 1.2533 · 1.4826 · 2 µm over the root of 8 panels.
		expect(found!.error).toBeCloseTo((1.2533 * 1.4826 * 2) / Math.sqrt(8), 12);
		expect(found!.evidence).toBe('The whole print lies 16 µm in x and -20 µm in y off, panel after panel.');
		expect(named('ALIGN_SHIFT', offsets({ tx: still(8, 15), ty: still(8, 20) }))).toBe(false);
		expect(named('ALIGN_SHIFT', offsets({ tx: still(8, 15), ty: still(8, 20.1) }))).toBe(true);
		expect(CAUSES.ALIGN_SHIFT.statistic!(facts(offsets({ tx: about(8, 3, 2), ty: about(8, 4, 2) })), {})).toEqual({
			value: 5,
			error: Math.SQRT2 * ((1.2533 * 1.4826 * 2) / Math.sqrt(8))
		});
	});

	test.each([
		['ALIGN_ROTATION', 'theta', 'turned'],
		['ALIGN_STRETCH', 'stretch', 'larger']
	] as const)('%s is what it comes to at the farthest pad, either way', (code, name, word) => {
		const [found] = find(code, offsets({ [name]: about(8, 0.52, 0.01) }));
		expect(found!.size).toBeCloseTo(26, 12);
		expect(found!.error).toBeCloseTo((1.2533 * 1.4826 * 0.5) / Math.sqrt(8), 12);
		expect(found!.evidence).toContain(word);
		expect(find(code, offsets({ [name]: still(8, -0.52) }))[0]!.size).toBeCloseTo(-26, 12);
		expect(named(code, offsets({ [name]: still(8, 0.5) }))).toBe(false);
		expect(CAUSES[code].statistic!(facts(offsets({ [name]: still(8, -0.1) })), {})!.value).toBeCloseTo(-5, 12);
	});

	test('a board that is too large is printed too small for', () => {
		expect(find('ALIGN_STRETCH', offsets({ stretch: still(8, -0.52) }))[0]!.evidence).toContain('smaller than the board by 26 µm');
	});

	test('scatter leaves the difference of the strokes out, and takes the worse axis', () => {
		const far = strokes(8).map(({ stroke }) => (stroke === 'F' ? 100 : 0));
		const spread = (by: number) => far.map((v, i) => v + (i % 2 ? by : -by));
		const [found] = find('ALIGN_SCATTER', offsets({ ty: spread(10.2) }));
		expect(found!.size).toBeCloseTo(1.4826 * 10.2, 9);
		expect(found!.error).toBeCloseTo((1.4826 * 10.2) / 4, 9);
		expect(named('ALIGN_SCATTER', offsets({ tx: spread(10.2) }))).toBe(true);
		expect(named('ALIGN_SCATTER', offsets({ tx: spread(10.1), ty: spread(10.1) }))).toBe(false);
	});

	test('strokes that land apart: above 20 µm, a |t| of 4, and four panels of each', () => {
		const apart = (gap: number, by = 0, n = 8) =>
			strokes(n).map(({ stroke }, i) => (stroke === 'F' ? gap / 2 : -gap / 2) + (i % 2 ? by : -by));
		const own = (ty: number[]) => offsets({ ty }, ty.length);
		expect(named('STROKE_OFFSET', own(apart(20)))).toBe(false);
		expect(named('STROKE_OFFSET', own(apart(20.2)))).toBe(true);
		expect(named('STROKE_OFFSET', own(apart(-20.2)))).toBe(true);
		// t = 20.4 µm over √2 · 1.2533 · 1.4826 · scatter / √4: 4 at 3.88 µm.
		expect(find('STROKE_OFFSET', own(apart(20.4, 3.8)))[0]!.t).toBeCloseTo(20.4 / ((Math.SQRT2 * 1.2533 * 1.4826 * 3.8) / 2), 9);
		expect(named('STROKE_OFFSET', own(apart(20.4, 3.9)))).toBe(false);
		// Three of one stroke are too few, of either.
		const three = { ...own(apart(40)), p: { rMaxMm: 50, run: { panels: [...strokes(7), { stroke: 'F' }], strokeAxis: 'y' } } };
		expect(named('STROKE_OFFSET', three)).toBe(false);
		const swapped = {
			...three,
			p: { ...three.p, run: { ...three.p.run, panels: three.p.run.panels.map((p) => ({ stroke: p.stroke === 'F' ? 'R' : 'F' })) } }
		};
		expect(named('STROKE_OFFSET', swapped)).toBe(false);
		expect(find('STROKE_OFFSET', own(apart(30)))[0]!.evidence).toBe('Front strokes land 30 µm further along than rear strokes.');
		expect(find('STROKE_OFFSET', own(apart(-30)))[0]!.evidence).toContain('less far');
		const alongX = offsets({ tx: apart(30) });
		expect(named('STROKE_OFFSET', alongX)).toBe(false);
		expect(named('STROKE_OFFSET', { ...alongX, p: { ...alongX.p, run: { ...alongX.p.run, strokeAxis: 'x' } } })).toBe(true);
		expect(CAUSES.STROKE_OFFSET.statistic!(facts(own(apart(-6))), {})).toEqual({ value: -6, error: 0 });
	});
});

describe('levels of the whole print', () => {
	const at = (levels: object) => ({
		levels: { height: 1, area: 1, volume: 1, large: { value: 1, n: 9 }, others: { value: 1, n: 20 }, ...levels }
	});
	const pads = { p: { run: { pads: [{ minSideMm: 0.99 }, { minSideMm: 1 }, { minSideMm: 2 }] } } };

	test('too high: 115 % of the height on less than 110 % of the area', () => {
		expect(find('GAP_HIGH', at({ height: 1.15, area: 1.09 }))).toMatchObject([{ size: 1.15, error: 0 }]);
		expect(named('GAP_HIGH', at({ height: 1.149 }))).toBe(false);
		expect(named('GAP_HIGH', at({ height: 1.2, area: 1.1 }))).toBe(false);
	});
	test('scooped: large deposits at 85 % of the others, which stand', () => {
		const scooped = (large: object, others: object = {}) => ({
			...at({ large: { value: 0.85, n: 4, ...large }, others: { value: 1, n: 10, ...others } }),
			...pads
		});
		expect(find('SCOOP', scooped({}))).toMatchObject([{ size: 0.85, where: { pads: [1, 2] } }]);
		expect(named('SCOOP', scooped({ value: 0.851 }))).toBe(false);
		expect(named('SCOOP', scooped({ n: 3 }))).toBe(false);
		expect(named('SCOOP', scooped({}, { n: 9 }))).toBe(false);
		expect(named('SCOOP', scooped({ value: 0.5 }, { value: 0.92 }))).toBe(true);
		expect(named('SCOOP', scooped({ value: 0.5 }, { value: 0.919 }))).toBe(false);
		expect(find('SCOOP', scooped({ value: 0.92 * 0.8 }, { value: 0.92 }))[0]!.evidence).toContain('80 %');
	});
	test('slumped: 112 % of the area at 88 % of the height, the volume right', () => {
		const slumped = (own: object = {}) => at({ area: 1.12, height: 0.88, volume: 0.9, ...own });
		expect(find('SLUMP', slumped())).toMatchObject([
			{ size: 1.12, evidence: expect.stringContaining('112 % of their usual area at 88 %') }
		]);
		expect(named('SLUMP', slumped({ volume: 1.1 }))).toBe(true);
		for (const own of [{ area: 1.119 }, { height: 0.881 }, { volume: 0.899 }, { volume: 1.101 }])
			expect(named('SLUMP', slumped(own)), JSON.stringify(own)).toBe(false);
	});
	test('too little: 88 % of the volume, unless that has a cause of its own', () => {
		expect(find('LEVEL_LOW', at({ volume: 0.88 }))).toMatchObject([{ size: 0.88, evidence: expect.stringContaining('88 %') }]);
		expect(named('LEVEL_LOW', at({ volume: 0.881 }))).toBe(false);
		expect(named('LEVEL_LOW', at({ volume: NaN }))).toBe(false);
		for (const code of ['GAP_HIGH', 'SCOOP', 'SLUMP'] as const)
			expect(find('LEVEL_LOW', at({ volume: 0.5 }), [{ code }]), code).toEqual([]);
		expect(find('LEVEL_LOW', at({ volume: 0.5 }), [{ code: 'STROKE_PAIR' }])).toHaveLength(1);
	});
	test('peaks: more than one in twenty above half again the height; no reading is no peak', () => {
		const run = (peaks: number[]) => ({ p: { run: { heightUm: peaks.map(() => 100), peakHeightUm: peaks } } });
		const share = (high: number, of: number, more: number[] = []) =>
			run([...more, ...Array.from({ length: of }, (_, i) => (i < high ? 151 : 150))]);
		expect(named('PEAKS', share(5, 100))).toBe(false);
		const [found] = find('PEAKS', share(6, 100));
		expect(found!.size).toBeCloseTo(0.06, 12);
		expect(found!.error).toBeCloseTo(Math.sqrt(6) / 100, 12);
		// Readings without a height or without a peak are in neither count.
		expect(find('PEAKS', share(6, 100, [NaN, 0, Infinity]))[0]!.size).toBeCloseTo(0.06, 12);
		expect(named('PEAKS', run([NaN]))).toBe(false);
		expect(named('PEAKS', { p: { run: { heightUm: [1] } } })).toBe(false);
	});
	test('readings that disagree with themselves by more than a tenth in the middle', () => {
		const run = (factor: number, bad: number[] = []) => ({
			p: {
				run: {
					foilUm: 120,
					volumePct: [...bad, ...[90, 100, 110].map((v) => factor * v)],
					areaPct: [...bad, 100, 100, 100],
					heightUm: [...bad, 108, 120, 132]
				}
			}
		});
		expect(named('MEASUREMENT', run(Math.exp(0.0999)))).toBe(false);
		expect(find('MEASUREMENT', run(Math.exp(0.1001)))[0]!.size).toBeCloseTo(0.1001, 9);
		expect(find('MEASUREMENT', run(Math.exp(-0.2)))[0]!.size).toBeCloseTo(0.2, 9);
		expect(find('MEASUREMENT', run(Math.exp(0.3), [0, NaN]))[0]).toMatchObject({ evidence: expect.stringContaining('30 %') });
		expect(named('MEASUREMENT', { p: { run: { foilUm: 100, volumePct: [], areaPct: [], heightUm: [] } } })).toBe(false);
	});
});

describe('places on the board', () => {
	const pads = (n: number) => Array.from({ length: n }, (_, i) => ({ name: `P${i}` }));
	const blocked = (n: number, of: number) => ({
		blocked: pads(n).map((_, pad) => ({ pad, size: -60 + pad })),
		p: { run: { pads: pads(of) } }
	});

	test('blocked openings: named by the worst, up to three or one in twenty', () => {
		expect(find('APERTURE_BLOCKED', blocked(3, 20))).toEqual([
			{ size: -60, error: 0, where: { pads: [0, 1, 2] }, evidence: 'P0, P1, P2 carry 45 % less than their class.' }
		]);
		expect(named('APERTURE_BLOCKED', blocked(0, 20))).toBe(false);
		expect(named('APERTURE_BLOCKED', blocked(4, 79))).toBe(false);
		expect(named('APERTURE_BLOCKED', blocked(4, 80))).toBe(true);
		expect(named('APERTURE_BLOCKED', blocked(6, 100))).toBe(false);
		expect(find('APERTURE_BLOCKED', blocked(4, 100))[0]!.evidence).toContain('P0, P1, P2, P3 carry');
		expect(find('APERTURE_BLOCKED', blocked(5, 100))[0]!.evidence).toContain('P0, P1, P2, P3 and 1 more carry');
	});

	test('places and strips: at most three, with how sure each is', () => {
		const place = (size: number) => ({ size, z: 5, pads: [1, 2, 3, 4], at: { xMm: 12.4, yMm: 30 }, strip: [20.4, 30.4] });
		const high = find('SUPPORT_LOCAL', { high: [14, 13, 12.5, 12].map(place) });
		expect(high.map((f) => f.size)).toEqual([14, 13, 12.5]);
		expect(high[0]).toEqual({
			...{ size: 14, error: 14 / 5, t: 5, where: { pads: [1, 2, 3, 4], at: { xMm: 12.4, yMm: 30 } } },
			evidence: '4 pads around 12, 30 mm stand 15 % higher than their classes.'
		});
		const strips = find('BLADE_NICK', { strips: [11, -11, 10, 10].map(place) });
		expect(strips.map((f) => f.where!.stroke)).toEqual(['R', 'F', 'R']);
		expect(strips[1]).toMatchObject({ error: 11 / 5, t: 5, where: { stripMm: [20.4, 30.4], pads: [1, 2, 3, 4] } });
		expect(strips[0]!.evidence).toBe('A strip from 20 to 30 mm across differs by +11.6 % between front and rear strokes.');
	});

	test('a tilt is twice its slope, either way, with a |t| of 4', () => {
		const tilt = (across: number, along: number, t: number) => ({
			tilt: { across: { value: across, error: 0.5, t }, along: { value: along, error: 0.25, t } }
		});
		expect(find('TILT_ACROSS', tilt(6, 0, 4))).toMatchObject([{ size: 12, error: 1, t: 4 }]);
		expect(find('TILT_ACROSS', tilt(6, 0, 4))[0]!.evidence).toContain('more at the larger coordinate');
		expect(find('TILT_ALONG', tilt(0, -6, -4))).toMatchObject([{ size: -12, error: 0.5, evidence: expect.stringContaining('less at') }]);
		expect(named('TILT_ACROSS', tilt(5.99, 9, 9))).toBe(false);
		expect(named('TILT_ALONG', tilt(9, 9, 3.99))).toBe(false);
		expect(named('TILT_ALONG', { tilt: null })).toBe(false);
	});
});

describe('bridges', () => {
	const run = (bridges: number[], sinceWipe = (m: number) => m % 5) =>
		({ bridges, panels: bridges.map((_, m) => ({ printsSinceWipe: sinceWipe(m) })) }) as unknown as Parameters<typeof bridgesOf>[0];
	const of = (bridges: number[], sinceWipe?: (m: number) => number) => bridgesOf(run(bridges, sinceWipe), SIGNATURE_THRESHOLDS);
	const every = (n: number, value: (m: number) => number) => Array.from({ length: n }, (_, m) => value(m));

	test('are asked about from one in two panels on, on five panels at least', () => {
		expect(of(every(10, (m) => (m % 2 ? 1 : 0)))!.finding).toMatchObject({ size: 0.5, where: { panels: [1, 3, 5, 7, 9] } });
		expect(of(every(11, (m) => (m % 2 ? 1 : 0)))).toBeNull();
		expect(of(every(8, (m) => (m % 2 ? 9 : 0)))).toBeNull();
		expect(bridgesOf({ ...run([]), bridges: undefined } as never, SIGNATURE_THRESHOLDS)).toBeNull();
		expect(of(every(10, (m) => (m % 2 ? 2 : 0)))!.finding.error).toBeCloseTo(Math.sqrt(10) / 10, 12);
		expect(of(every(10, (m) => (m % 2 ? 2 : 0)))!.words).toBe('1.0 bridges a panel on 5 panels');
	});

	test('late before a wipe: three quarters of them, and more than chance', () => {
		// Prints 3 and 4 of 5 lie above the middle: two in five are expected there.
		const late = of(every(40, (m) => (m % 5 > 2 ? 3 : m % 5 === 0 ? 2 : 0)))!;
		expect(late.lateShare).toBe(0.75);
		expect(late.z).toBeCloseTo((48 - 64 * 0.4) / Math.sqrt(64 * 0.4 * 0.6), 9);
		expect(late.lateBeforeWipe).toBe(true);
		expect(of(every(40, (m) => (m % 5 > 2 ? 2 : m % 5 === 0 ? 2 : 0)))!.lateBeforeWipe).toBe(false);
		// Eight of ten may be chance.
		const few = of([...every(10, (m) => (m % 5 > 2 ? 2 : 0)), ...every(5, (m) => (m < 1 ? 2 : 0))])!;
		expect(few.lateShare).toBe(0.8);
		expect(few.lateBeforeWipe).toBe(false);
		// Where the wipe is always the same age, nothing is late.
		expect(
			of(
				every(10, () => 1),
				() => 2
			)
		).toMatchObject({ lateShare: 0, z: 0, lateBeforeWipe: false });
	});

	test('are the alignment’s where that is off, the wipe’s where they are late, else the pressure’s', () => {
		const bridges = { finding: { size: 1, error: 0.1, where: {} }, words: 'x', lateShare: 0.8, z: 4, lateBeforeWipe: true };
		for (const code of ['ALIGN_SHIFT', 'ALIGN_ROTATION', 'ALIGN_STRETCH'] as const) {
			expect(find('BRIDGE_ALIGN', { bridges }, [{ code }])).toMatchObject([{ symptomOf: code, size: 1 }]);
			expect(find('BRIDGE_WIPE', { bridges }, [{ code }])).toEqual([]);
			expect(find('BRIDGE_PRESSURE', { bridges: { ...bridges, lateBeforeWipe: false } }, [{ code }])).toEqual([]);
		}
		expect(find('BRIDGE_ALIGN', { bridges }, [{ code: 'ALIGN_SCATTER' }])).toEqual([]);
		expect(find('BRIDGE_WIPE', { bridges })).toMatchObject([{ t: 4, evidence: 'x, 80 % of them late before a wipe.' }]);
		expect(find('BRIDGE_PRESSURE', { bridges })).toEqual([]);
		expect(find('BRIDGE_PRESSURE', { bridges: { ...bridges, lateBeforeWipe: false } })).toHaveLength(1);
		expect(find('BRIDGE_WIPE', { bridges: { ...bridges, lateBeforeWipe: false } })).toEqual([]);
		for (const code of ['BRIDGE_ALIGN', 'BRIDGE_WIPE', 'BRIDGE_PRESSURE'] as const)
			expect(find(code, { bridges: null }, [{ code: 'ALIGN_SHIFT' }])).toEqual([]);
	});
});
