import { describe, expect, test } from 'vitest';
import {
	beadAge,
	beadOf,
	beadResidence,
	checkJar,
	expiryEnd,
	jarMoves,
	panelsToTopUp,
	PASTE_RULES,
	pickPaste,
	readSensorLog,
	refuses,
	stateWords,
	touchedBy,
	violationWords,
	type Asked,
	type JarFacts,
	type JarStatus,
	type SensorLimits
} from './index.ts';

const H = 3_600_000;
const MIN = 60_000;
const jar: JarFacts = { id: 'J17', lot: 'L4', paste: 'P-305', receivedMs: 0, expiryMs: 1000 * H, grams: 500 };
const status = (more: Partial<JarStatus>): JarStatus => ({
	state: 'open',
	governing: null,
	remainingH: null,
	untilMs: null,
	clocks: [],
	readyMs: null,
	discardNow: false,
	quarantine: [],
	violations: [],
	next: null,
	gramsLeft: 400,
	openedMs: null,
	stencil: null,
	stencilH: 0,
	coldReturns: 0,
	takenOutMs: null,
	airC: 23,
	...more
});

describe('the bead on a stencil', () => {
	test('whole panels until it is at its least, never fewer than none', () => {
		expect(panelsToTopUp(200, 140, 0.6)).toBe(100);
		expect(panelsToTopUp(200, 140, 0.601)).toBe(99);
		expect(panelsToTopUp(130, 140, 0.6)).toBe(0);
		expect(() => panelsToTopUp(200, 140, 0)).toThrow('gPerPanel');
		expect(() => panelsToTopUp(200, 140, NaN)).toThrow('more than 0 g');
	});

	test('topped up steadily it is as old as its mass over its use; e^−1 of it is older than that', () => {
		const { meanAgeH, olderShare } = beadResidence(240, 0.5, 60, 8);
		expect([meanAgeH, olderShare]).toEqual([8, expect.closeTo(Math.exp(-1), 12)]);
		expect(() => beadResidence(240, 0, 60, 8)).toThrow('a use of more than 0 g an hour');
	});

	test('prints take from every portion alike, in the order of their times; a clear leaves nothing; what comes later is not yet', () => {
		const load = (atMs: number, of: string, grams: number, ageH?: number) => ({
			atMs,
			kind: 'load' as const,
			jar: of,
			lot: `L${of}`,
			grams,
			...(ageH === undefined ? {} : { ageH })
		});
		const print = (atMs: number, grams: number) => ({ atMs, kind: 'print' as const, grams });
		expect(beadOf([print(3 * H, 50), load(2 * H, 'B', 100, 4), load(H, 'A', 100)], 3 * H)).toEqual([
			{ jar: 'B', lot: 'LB', loadedMs: -2 * H, grams: 75 },
			{ jar: 'A', lot: 'LA', loadedMs: H, grams: 75 }
		]);
		expect(beadOf([load(H, 'A', 100), print(3 * H, 50)], 3 * H - 1)[0]!.grams).toBe(100);
		expect(beadOf([load(H, 'A', 100), print(2 * H, 130)], 3 * H)[0]!.grams).toBe(0);
		expect(beadOf([load(H, 'A', 100), { atMs: 2 * H, kind: 'clear' }, load(3 * H, 'B', 60)], 4 * H)).toHaveLength(1);
		expect(beadOf([print(H, 5)], 2 * H)).toEqual([]);
	});

	test('the oldest gram’s clock, the middle age by weight, and what is over its life', () => {
		const portions = [
			{ jar: 'A', lot: 'L1', loadedMs: 0, grams: 50 },
			{ jar: 'B', lot: 'L2', loadedMs: 6 * H, grams: 150 },
			{ jar: 'C', lot: 'L3', loadedMs: -9 * H, grams: 0 }
		];
		expect(beadAge(portions, 10 * H, 8)).toEqual({
			grams: 200,
			oldestEndsMs: 8 * H,
			meanAgeH: (50 * 10 + 150 * 4) / 200,
			olderShare: 0.25,
			lots: ['L1', 'L2']
		});
		// Exactly as old as its life is not older.
		expect(beadAge(portions, 8 * H, 8).olderShare).toBe(0);
		expect(beadAge([], 0, 8)).toEqual({ grams: 0, oldestEndsMs: null, meanAgeH: 0, olderShare: 0, lots: [] });
	});
});

describe('a printed date', () => {
	test('ends with its day or its month; a year’s last month ends the year', () => {
		expect(new Date(expiryEnd('2026-05-31', 'UTC')).toISOString()).toBe('2026-06-01T00:00:00.000Z');
		expect(new Date(expiryEnd('2026-12', 'UTC')).toISOString()).toBe('2027-01-01T00:00:00.000Z');
		expect(new Date(expiryEnd('2026-01', 'UTC')).toISOString()).toBe('2026-02-01T00:00:00.000Z');
	});

	test.each(['2026-13', '2026-00', '2026-02-30', '26-05', 'May 2026'])('%s is none', (printed) => {
		expect(() => expiryEnd(printed, 'UTC')).toThrow('expiry');
	});

	test('a jar has weight and a date after it came', () => {
		expect(() => checkJar(jar)).not.toThrow();
		expect(() => checkJar({ ...jar, grams: 0 })).toThrow('J17.grams');
		expect(() => checkJar({ ...jar, expiryMs: 0 })).toThrow('J17.expiry');
		expect(() => checkJar({ ...jar, expiryMs: 1 })).not.toThrow();
	});
});

describe('what is asked of a jar', () => {
	const NOW = 100 * H;
	const codes = (kind: Asked['kind'], s: Partial<JarStatus>, more: Partial<Asked> = {}, rules = PASTE_RULES, nowMs = NOW) =>
		refuses(jar, status(s), { kind, ...more }, nowMs, rules).map((r) => r.code);

	test.each<[Asked['kind'], Partial<JarStatus>, string[]]>([
		['load_stencil', { state: 'discarded' }, ['is_discarded']],
		['open', { state: 'empty' }, ['is_empty']],
		['discard', { state: 'quarantined', quarantine: ['expired'] }, []],
		['mis_scan', { state: 'cold' }, []],
		['empty', { state: 'cold' }, []],
		['review_ok', { state: 'open' }, ['not_held']],
		['review_ok', { state: 'quarantined' }, []],
		['open', { state: 'quarantined', quarantine: ['expired'] }, ['quarantined']],
		['take_out', { state: 'cold' }, []],
		['take_out', { state: 'warming' }, ['not_cold']],
		['store_cold', { state: 'received' }, []],
		['store_cold', { state: 'cold' }, ['not_received']],
		['return_cold', { state: 'warming' }, []],
		['return_cold', { state: 'ready' }, []],
		['return_cold', { state: 'mixed' }, ['not_out']],
		['return_cold', { state: 'open', openedMs: 0 }, ['opened']],
		['return_cold', { state: 'ready', coldReturns: 1 }, ['too_many_cold_returns']],
		['mix', { state: 'received' }, ['too_cold']],
		['open', { state: 'cold' }, ['too_cold']],
		['open', { state: 'open', openedMs: 0 }, ['already_open']],
		['open', { state: 'on_stencil', openedMs: 0 }, ['already_open']],
		['mix', { state: 'open', openedMs: 0 }, []],
		['open', { state: 'warming', readyMs: null }, ['never_warm']],
		['open', { state: 'warming', takenOutMs: NOW - 2 * H, readyMs: NOW + 2 * H }, ['too_cold']],
		['open', { state: 'ready', takenOutMs: NOW - 9 * H, readyMs: NOW }, []],
		['load_stencil', { state: 'ready' }, ['not_open']],
		['load_stencil', { state: 'open' }, []],
		['load_stencil', { state: 'on_stencil' }, []],
		['scrape_off', { state: 'on_stencil' }, []],
		['scrape_off', { state: 'open' }, ['not_on_stencil']]
	])('%s of one that is %o: %o', (kind, s, expected) => {
		expect(codes(kind, s)).toEqual(expected);
	});

	test('an opened jar may go back where the plant lets it', () => {
		expect(codes('return_cold', { state: 'open', openedMs: 0 }, {}, { ...PASTE_RULES, openMayReturn: true })).toEqual([]);
		expect(codes('return_cold', { state: 'ready', coldReturns: 1 }, {}, { ...PASTE_RULES, coldReturns: 2 })).toEqual([]);
	});

	test('its date counts for stirring, opening and loading, and not before it is over', () => {
		const warm = { state: 'ready' as const, takenOutMs: 900 * H, readyMs: 904 * H };
		for (const kind of ['mix', 'open'] as const) {
			expect(codes(kind, warm, {}, PASTE_RULES, 1000 * H)).toEqual([]);
			expect(codes(kind, warm, {}, PASTE_RULES, 1000 * H + 1)).toEqual(['expired']);
		}
		expect(codes('load_stencil', { state: 'open' }, {}, PASTE_RULES, 1000 * H + 1)).toEqual(['expired']);
		expect(codes('take_out', { state: 'cold' }, {}, PASTE_RULES, 2000 * H)).toEqual([]);
	});

	test('cold paste and dew: what was measured in the jar decides', () => {
		const ready = { state: 'ready' as const, takenOutMs: NOW - 9 * H, readyMs: NOW - 5 * H };
		expect(codes('open', ready, { pasteC: PASTE_RULES.warmToC })).toEqual([]);
		expect(codes('open', ready, { pasteC: PASTE_RULES.warmToC - 0.1 })).toEqual(['too_cold']);
		expect(codes('open', ready, { pasteC: 19.5, air: { airC: 28, rhPct: 75 } })).toEqual(['dew']);
		expect(codes('mix', ready, { pasteC: 19.5, air: { airC: 28, rhPct: 75 } })).toEqual([]);
		expect(codes('open', ready, { pasteC: 19.5, air: { airC: 23, rhPct: 50 } })).toEqual([]);
	});

	test('loading: clocks that ended, the job’s paste, and what lies on the stencil', () => {
		const clocks = (clock: 'open_life' | 'stencil_life', endsMs: number) =>
			({ state: 'open' as const, clocks: [{ clock, endsMs }] }) as never;
		expect(codes('load_stencil', clocks('open_life', NOW))).toEqual(['open_life']);
		expect(codes('load_stencil', clocks('stencil_life', NOW))).toEqual(['stencil_life']);
		expect(codes('load_stencil', clocks('open_life', NOW + 1))).toEqual([]);
		expect(codes('load_stencil', {}, { wanted: { paste: 'P-9' } })).toEqual(['wrong_paste']);
		expect(codes('load_stencil', {}, { wanted: { paste: 'P-305' }, bead: { paste: 'P-305', lots: ['L4', 'L5'] } })).toEqual([]);
		expect(codes('load_stencil', {}, { bead: { paste: 'P-305', lots: ['L5'] } })).toEqual(['mixes_lots']);
		expect(codes('load_stencil', {}, { bead: { paste: 'P-9', lots: ['L5'] } })).toEqual(['mixes_paste']);
		expect(codes('load_stencil', {}, { bead: { paste: 'P-305', lots: [] } })).toEqual([]);
	});

	test('words: the step that is missing, and how long it takes', () => {
		const said = (kind: Asked['kind'], s: Partial<JarStatus>) => refuses(jar, status(s), { kind }, NOW)[0]!;
		expect(said('load_stencil', { state: 'ready' }).fix).toBe('Open it first');
		expect(said('load_stencil', { state: 'mixed' }).fix).toBe('Open it first');
		expect(said('load_stencil', { state: 'cold' })).toMatchObject({ fix: 'Take an open jar', why: 'J17 is in the fridge.' });
		expect(said('mix', { state: 'warming', takenOutMs: NOW - 90 * MIN, readyMs: NOW + 150 * MIN })).toMatchObject({
			why: 'J17 may be stirred in 2 h 30: warm-up 1 h 30 of 4 h 00.',
			atMs: NOW + 150 * MIN
		});
		expect(said('open', { state: 'received' }).atMs).toBe(NOW + PASTE_RULES.warmUpH * H);
	});

	test('the moves of a state, the usual first; stirring by hand, by mixer or not at all', () => {
		const moves = (state: JarStatus['state'], stir: 'hand' | 'mixer' | 'none' = 'hand') =>
			jarMoves(jar, status({ state }), {}, NOW, { ...PASTE_RULES, stir }).map((m) => `${m.kind}: ${m.name}`);
		expect(moves('mixed')).toEqual(['open: Open it', 'discard: Discard']);
		expect(moves('on_stencil')).toEqual([
			'load_stencil: On the stencil',
			'scrape_off: Off the stencil',
			'empty: Empty',
			'discard: Discard'
		]);
		expect(moves('ready')).toContain('mix: Stirred');
		expect(moves('ready', 'mixer')).toContain('mix: Mixed');
		expect(moves('ready', 'none').some((m) => m.startsWith('mix'))).toBe(false);
		expect(moves('empty')).toEqual([]);
	});

	test('states and violations as people say them', () => {
		expect((['on_stencil', 'cold', 'quarantined', 'mixed'] as const).map(stateWords)).toEqual([
			'on a stencil',
			'in the fridge',
			'in quarantine',
			'mixed'
		]);
		expect(violationWords('illegal:load_stencil_when_cold')).toBe('"load stencil" reported while in the fridge');
		expect(violationWords('expired')).toBe('past its use-by date');
		expect(violationWords('made-up')).toBe('made-up');
	});
});

describe('jars for the next job', () => {
	const one = (id: string, more: Partial<JarStatus>, facts: Partial<JarFacts> = {}) => ({
		jar: { ...jar, id, ...facts },
		status: status({ openedMs: 0, untilMs: 40 * H, ...more })
	});
	const pick = (jars: ReturnType<typeof one>[], needG = 300, jobH = 2) => pickPaste(jars, 'P-305', needG, jobH, 10 * H, 9 * H);

	test('first expired first out; open before sealed; then the one received earlier; then by name', () => {
		const order = (...jars: ReturnType<typeof one>[]) => pick(jars, 4000).take.map((t) => t.id);
		expect(order(one('A', { untilMs: 30 * H }), one('B', { untilMs: 20 * H }))).toEqual(['B', 'A']);
		expect(order(one('A', { state: 'ready', openedMs: null, untilMs: 20 * H }), one('B', { untilMs: 20 * H }))).toEqual(['B', 'A']);
		expect(order(one('A', {}, { receivedMs: 5 }), one('B', {}, { receivedMs: 4 }))).toEqual(['B', 'A']);
		expect(order(one('B', {}), one('A', {}))).toEqual(['A', 'B']);
	});

	test('only so much as the job needs, the rest is short; what is left out says why', () => {
		expect(pick([one('A', { gramsLeft: 200 }), one('B', { gramsLeft: 200, untilMs: 41 * H })])).toMatchObject({
			take: [
				{ id: 'A', grams: 200 },
				{ id: 'B', grams: 100 }
			],
			shortG: 0
		});
		const left = pick([
			one('X', {}, { paste: 'P-9' }),
			one('W', { state: 'warming', openedMs: null, readyMs: 11 * H }),
			one('S', { untilMs: 11 * H }),
			one('Q', { state: 'quarantined' }),
			one('E', { state: 'empty' }),
			one('D', { state: 'discarded' })
		]);
		expect(left.shortG).toBe(300);
		expect(left.excluded).toEqual([
			{ id: 'X', why: 'is P-9' },
			{ id: 'W', why: 'not warm by then' },
			{ id: 'S', why: 'lasts 1.0 h of the 2.0 h needed' },
			{ id: 'Q', why: 'is in quarantine' }
		]);
	});

	test('one that is warm by the start counts; one that lasts exactly as long as the job does too', () => {
		expect(pick([one('W', { state: 'warming', openedMs: null, readyMs: 10 * H })]).take[0]!.id).toBe('W');
		expect(pick([one('S', { untilMs: 12 * H })]).take[0]!.id).toBe('S');
	});
});

describe('a sensor’s log', () => {
	const limits: SensorLimits = { lowC: 2, highC: 10, lowRhPct: 40, highRhPct: 60, graceMin: 20, neverBelowZero: true };
	const log = (...values: (number | [number, number])[]) =>
		readSensorLog(
			values.map((v, i) => ({
				atMs: i * 10 * MIN,
				temperatureC: Array.isArray(v) ? v[0] : v,
				...(Array.isArray(v) ? { rhPct: v[1] } : {})
			})),
			limits
		);

	test('outside for longer than the grace counts, as long as the grace does not; a limit itself is inside', () => {
		expect(log(5, 10.1, 10.1, 5).excursions).toEqual([]);
		expect(log(5, 10.1, 10.1, 10.1, 5).excursions).toEqual([{ kind: 'high', fromMs: 10 * MIN, toMs: 40 * MIN, worst: 10.1, open: false }]);
		expect(log(10, 10, 10, 10, 2, 2, 2, 2).excursions).toEqual([]);
		expect(log(5, 1.9, 1.9, 1.9).excursions).toEqual([]);
		expect(log(5, 1.9, 1.9, 1.9, 1.9).excursions).toMatchObject([{ kind: 'low', open: true, fromMs: 10 * MIN, toMs: 40 * MIN }]);
	});

	test('below zero counts at once in a fridge; each kind keeps its own worst', () => {
		expect(log(5, -0.1, 5).excursions).toEqual([{ kind: 'freezing', fromMs: 10 * MIN, toMs: 20 * MIN, worst: -0.1, open: false }]);
		expect(log(5, 0, 5).excursions).toEqual([]);
		const worst = (kind: string, ...values: Parameters<typeof log>) => log(...values).excursions.find((e) => e.kind === kind)?.worst;
		expect(worst('high', 11, 14, 12, 12, 5)).toBe(14);
		expect(worst('low', 1, 0.5, 1.5, 1.5, 5)).toBe(0.5);
		expect(worst('freezing', -1, -3, -2, 5)).toBe(-3);
		expect(worst('humid', [5, 61], [5, 70], [5, 65], [5, 65], [5, 50])).toBe(70);
		expect(worst('dry', [5, 39], [5, 30], [5, 35], [5, 35], [5, 50])).toBe(30);
	});

	test('humidity at its limits is inside; where there is no limit or no reading nothing is said', () => {
		expect(log([5, 60], [5, 60], [5, 60], [5, 60], [5, 40], [5, 40], [5, 40], [5, 40]).excursions).toEqual([]);
		const dry = Array.from({ length: 6 }, (_, i) => ({ atMs: i * 10 * MIN, temperatureC: 5, rhPct: 5 }));
		expect(readSensorLog(dry, { lowC: 2, highC: 10, graceMin: 20, neverBelowZero: true }).excursions).toEqual([]);
		expect(
			readSensorLog(
				dry.map((r) => ({ ...r, rhPct: null })),
				limits
			).excursions
		).toEqual([]);
	});

	test('readings too far apart leave a gap, which ends what was going on', () => {
		const at = (min: number, temperatureC: number) => ({ atMs: min * MIN, temperatureC });
		expect(readSensorLog([at(0, 5), at(20, 5)], limits).gaps).toEqual([]);
		const { gaps, excursions } = readSensorLog([at(0, 12), at(20, 12), at(40, 12), at(61, 12)], limits);
		expect(gaps).toEqual([{ fromMs: 40 * MIN, toMs: 61 * MIN }]);
		expect(excursions).toEqual([{ kind: 'high', fromMs: 0, toMs: 40 * MIN, worst: 12, open: false }]);
	});

	test('what no sensor reads is refused with its reading', () => {
		const bad = (more: object) => () =>
			readSensorLog(
				[
					{ atMs: 0, temperatureC: 5 },
					{ atMs: MIN, temperatureC: 5, ...more }
				],
				limits
			);
		expect(bad({ temperatureC: -10.1 })).toThrow('readings[1].temperatureC');
		expect(bad({ temperatureC: 50.1 })).toThrow('-10 to 50 °C');
		expect(bad({ temperatureC: -10 })).not.toThrow();
		expect(bad({ temperatureC: 50 })).not.toThrow();
		expect(bad({ rhPct: 0.9 })).toThrow('readings[1].rhPct');
		expect(bad({ rhPct: 100.1 })).toThrow('1 to 100 % RH');
		expect(bad({ rhPct: 1 })).not.toThrow();
		expect(bad({ rhPct: 100 })).not.toThrow();
		expect(bad({ atMs: -1 })).toThrow('readings in time order');
	});

	test('who was there for a moment was touched', () => {
		const stay = (fromMs: number, toMs: number | null) => ({ fromMs, toMs });
		const e = { fromMs: 10, toMs: 20 };
		expect(touchedBy(e, [stay(0, 9), stay(0, 10), stay(20, 30), stay(21, null), stay(5, null)])).toEqual([
			stay(0, 10),
			stay(20, 30),
			stay(5, null)
		]);
	});
});
