import { describe, expect, test } from 'vitest';
import {
	expiryEnd,
	foldJar,
	historyOn,
	jarHistory,
	jarStatus,
	PASTE_RULES,
	statusOf,
	type JarEvent,
	type JarEventKind,
	type JarFacts,
	type PasteRules
} from './index.ts';

const H = 3_600_000;
const JAR: JarFacts = { id: 'J-7', lot: 'L4', paste: 'P-305', receivedMs: 0, expiryMs: 1000 * H, grams: 500 };
/** One millisecond, h. */
const TICK = 1 / H;

/** Events by the hour, numbered from `first`. */
const told = (first: number, ...events: [number, JarEventKind, Partial<JarEvent>?][]): JarEvent[] =>
	events.map(([hour, kind, more], i): JarEvent => ({ id: first + i, atMs: hour * H, kind, ...more }));
const at = (hour: number, events: JarEvent[], rules: Partial<PasteRules> = {}, jar = JAR) =>
	jarStatus(
		jar,
		events.filter((e) => e.atMs <= hour * H),
		hour * H,
		{ ...PASTE_RULES, ...rules }
	);
const ends = (hour: number, events: JarEvent[], rules: Partial<PasteRules> = {}, jar = JAR) =>
	Object.fromEntries(at(hour, events, rules, jar).clocks.map((c) => [c.clock, c.endsMs / H]));

const OUT = told(1, [1, 'store_cold'], [10, 'take_out', { airC: 23 }]);
const MIXED = [...OUT, ...told(3, [15, 'mix'])];
const OPEN = [...MIXED, ...told(4, [16, 'open'])];

describe('what ran out first is what is named', () => {
	const near = (expiryH: number) => ({ ...JAR, expiryMs: expiryH * H });

	test('its date before its time out of the fridge, and the other way round, however late anybody looks', () => {
		for (const hour of [90, 500]) {
			expect(at(hour, OUT, {}, near(81))).toMatchObject({ quarantine: ['expired'], violations: [{ code: 'expired', atMs: 81 * H }] });
			expect(at(hour, OUT, {}, near(83))).toMatchObject({
				quarantine: ['unopened_warm_exceeded'],
				violations: [{ code: 'unopened_warm_exceeded', atMs: 82 * H }]
			});
		}
	});

	test('a review settles the clock that ran out; the other one still holds it when its turn comes', () => {
		const reviewed = [...OUT, ...told(9, [85, 'review_ok'])];
		expect(at(200, reviewed)).toMatchObject({ state: 'ready', quarantine: [] });
		expect(at(1000, reviewed).state).toBe('ready');
		expect(at(1000 + TICK, reviewed).quarantine).toEqual(['expired']);
		const cold = [...told(1, [1, 'store_cold']), ...told(9, [1001, 'review_ok'])];
		expect(at(1002, cold).state).toBe('cold');
		expect(at(2000, cold).violations.map((v) => v.code)).toEqual(['expired']);
	});

	test.each<[string, JarEvent[], boolean]>([
		['as it came', [], true],
		['in the fridge', told(1, [1, 'store_cold']), true],
		['warming', told(1, [1, 'store_cold'], [999, 'take_out']), true],
		['warm', told(1, [1, 'store_cold'], [990, 'take_out']), true],
		['stirred', told(1, [1, 'store_cold'], [990, 'take_out'], [995, 'mix']), false],
		['opened', told(1, [1, 'store_cold'], [990, 'take_out'], [995, 'mix'], [996, 'open']), false]
	])('past its date %s: held at once where nobody has begun it, else at the next step', (_, events, held) => {
		expect(at(1000, events).quarantine).toEqual([]);
		expect(at(1000 + TICK, events).quarantine).toEqual(held ? ['expired'] : []);
	});

	test.each<[JarEventKind, JarEvent[], string]>([
		['mix', told(1, [1, 'store_cold'], [990, 'take_out'], [995, 'mix']), 'expired_at_mix'],
		['open', told(1, [1, 'store_cold'], [990, 'take_out'], [995, 'mix']), 'expired_at_open'],
		['load_stencil', told(1, [1, 'store_cold'], [990, 'take_out'], [995, 'mix'], [996, 'open']), 'expired_at_load']
	])('%s at the last instant of its date is right, a moment later it is held', (kind, before, code) => {
		const then = (hour: number) => at(hour, [...before, ...told(9, [hour, kind])]);
		expect(then(1000)).toMatchObject({ quarantine: [], violations: [] });
		expect(then(1000 + TICK).quarantine).toEqual([code]);
	});
});

describe('which clocks run', () => {
	test('sealed: its date; out of the fridge also its time there, less what it stood before; opened: that no more', () => {
		expect(ends(0, [])).toEqual({ shelf_life: 1000 });
		expect(ends(2, OUT)).toEqual({ shelf_life: 1000 });
		expect(ends(11, OUT)).toEqual({ shelf_life: 1000, sealed_out: 82 });
		expect(ends(14, OUT)).toEqual({ shelf_life: 1000, sealed_out: 82 });
		expect(ends(15, MIXED)).toEqual({ shelf_life: 1000, sealed_out: 82 });
		expect(ends(16, OPEN)).toEqual({ shelf_life: 1000, open_life: 40 });
		const twice = told(1, [1, 'store_cold'], [10, 'take_out'], [40, 'return_cold'], [50, 'take_out']);
		expect(ends(45, twice)).toEqual({ shelf_life: 1000 });
		expect(ends(51, twice)).toEqual({ shelf_life: 1000, sealed_out: 92 });
	});

	test('stirred and sealed it counts on: held after its time out of the fridge like any sealed jar', () => {
		expect(at(82, MIXED).state).toBe('mixed');
		expect(at(82 + TICK, MIXED).quarantine).toEqual(['unopened_warm_exceeded']);
		expect(at(82 + TICK, OPEN).state).toBe('open');
	});

	test('on the stencil and after it: what is left of its hours there, from its first load', () => {
		const used = [...OPEN, ...told(5, [17, 'load_stencil'], [18, 'load_stencil'], [20, 'scrape_off'])];
		expect(ends(17, used)).toMatchObject({ stencil_life: 25 });
		expect(ends(19, used)).toMatchObject({ stencil_life: 25 });
		expect(at(19, used).stencilH).toBe(2);
		// Three of its eight hours are used; off the stencil five stay left, whenever one looks.
		expect(ends(30, used)).toMatchObject({ stencil_life: 35 });
		expect(ends(31, used)).toMatchObject({ stencil_life: 36 });
	});

	test('opened, it is to be discarded by its open life or its stencil life, never by a date alone', () => {
		const late = told(1, [1, 'store_cold'], [990, 'take_out'], [995, 'mix'], [996, 'open']);
		expect(at(1000, late)).toMatchObject({ governing: 'shelf_life', remainingH: 0, discardNow: false });
		expect(at(1020, late).discardNow).toBe(true);
		expect(at(1020 - TICK, late).discardNow).toBe(false);
	});

	test.each<JarEventKind>(['discard', 'empty'])('a jar that is gone (%s) has none, no next step and nothing in it', (kind) => {
		const gone = [...OPEN, ...told(5, [17, 'load_stencil', { grams: 100, stencil: 'S-1' }], [18, kind])];
		expect(at(30, gone)).toMatchObject({
			state: kind === 'discard' ? 'discarded' : 'empty',
			clocks: [],
			governing: null,
			remainingH: null,
			untilMs: null,
			discardNow: false,
			next: null,
			gramsLeft: 0
		});
	});

	test('held, no clock governs what may be done with it, and it is not discarded by itself', () => {
		const held = [...OPEN, ...told(5, [41, 'load_stencil'])];
		expect(at(60, held)).toMatchObject({ state: 'quarantined', remainingH: null, untilMs: null, discardNow: false });
	});

	test('air that never warms it: it never becomes ready, and it is said so', () => {
		const inTheCold = told(1, [1, 'store_cold'], [10, 'take_out', { airC: 18 }]);
		expect(at(80, inTheCold)).toMatchObject({
			state: 'warming',
			readyMs: null,
			airC: 18,
			next: { action: 'Let it stand in a warmer room', atMs: null }
		});
		expect(at(9, OUT).readyMs).toBeNull();
		expect(at(15, MIXED).readyMs).toBeNull();
		expect(at(15, OUT).readyMs).toBe(14 * H);
	});
});

describe('a plant that puts opened jars back', () => {
	const RETURNS = { openMayReturn: true };
	const back = [...OPEN, ...told(5, [20, 'return_cold'], [30, 'take_out'], [34, 'mix'], [35, 'open'])];

	test('where it may not, the fact is noted and the jar stays open', () => {
		expect(at(21, back)).toMatchObject({ state: 'open', coldReturns: 0, violations: [{ code: 'illegal:return_cold_when_open' }] });
	});

	test('where it may: cold, warming again, open again; only from open, never from the stencil', () => {
		expect([20, 30, 34, 35].map((h) => at(h, back, RETURNS).state)).toEqual(['cold', 'warming', 'mixed', 'open']);
		expect(at(33, back, RETURNS)).toMatchObject({ takenOutMs: 30 * H, readyMs: 34 * H });
		const onStencil = [...OPEN, ...told(5, [17, 'load_stencil'], [18, 'return_cold'])];
		expect(at(19, onStencil, RETURNS)).toMatchObject({
			state: 'on_stencil',
			violations: [{ code: 'illegal:return_cold_when_on_stencil' }]
		});
	});

	test('its open life counts from the first opening and never stops, unless the rules let it stand while cold', () => {
		expect(ends(36, back, RETURNS).open_life).toBe(40);
		const paused = { ...RETURNS, openLifePausesCold: true };
		expect(ends(19, back, paused).open_life).toBe(40);
		expect(ends(25, back, paused).open_life).toBe(45);
		expect(ends(31, back, paused).open_life).toBe(50);
		const twice = [...back, ...told(20, [40, 'return_cold'], [43, 'take_out'])];
		expect(ends(44, twice, { ...paused, coldReturns: 2 }).open_life).toBe(53);
	});

	test('an opened jar has no time sealed: out again it is not held for that', () => {
		expect(ends(31, back, RETURNS)).not.toHaveProperty('sealed_out');
		const left = back.slice(0, 6);
		expect(at(200, left, RETURNS).quarantine).toEqual([]);
	});
});

describe('what is told late, twice or ahead of its time', () => {
	test('two minutes of a clock that is ahead are taken and wait for their turn; more is refused', () => {
		const ahead = (ms: number): JarEvent[] => [...OUT, { id: 9, kind: 'return_cold', atMs: 20 * H + ms }];
		expect(jarStatus(JAR, ahead(120_000), 20 * H).state).toBe('ready');
		expect(() => jarStatus(JAR, ahead(120_001), 20 * H)).toThrow('J-7.atMs');
	});

	test('a mis-scan takes back its own event alone, and only once it was said', () => {
		const scans = [...OUT, ...told(9, [15, 'open', { stirred: true }], [20, 'mis_scan', { of: 9 }])];
		const now = (hour: number) => jarStatus(JAR, scans, hour * H);
		// At 19 h nobody had taken it back: the list may be known ahead.
		expect(jarStatus(JAR, scans.slice(0, 3), 19 * H).state).toBe('open');
		expect(now(20).state).toBe('ready');
		expect(now(21)).toMatchObject({ state: 'ready', openedMs: null });
		expect(jarStatus(JAR, [...OUT, ...told(9, [20, 'mis_scan'])], 21 * H).state).toBe('ready');
	});

	test('of two entries of one instant the one entered first counts first, whatever order they arrive in', () => {
		const both = told(9, [15, 'mix'], [15, 'open']);
		expect(jarStatus(JAR, [...OUT, ...both], 15 * H).violations).toEqual([]);
		expect(jarStatus(JAR, [...OUT, ...[...both].reverse()], 15 * H).violations).toEqual([]);
		const other = told(9, [15, 'open'], [15, 'mix']);
		expect(jarStatus(JAR, [...other, ...OUT], 15 * H).violations.map((v) => v.code)).toEqual(['opened_unstirred']);
	});

	test('a fold stands at its last event that has happened, at its arrival before any', () => {
		expect(foldJar(JAR, [], 5 * H).ms).toBe(0);
		expect(foldJar(JAR, OUT, 10 * H).ms).toBe(10 * H);
		expect(foldJar(JAR, OUT, 10 * H - 1).ms).toBe(1 * H);
		expect(foldJar(JAR, [...OUT].reverse(), 99 * H).ms).toBe(10 * H);
	});

	test('looking at a kept fold changes nothing of it', () => {
		const fold = foldJar(JAR, OUT, 10 * H);
		expect(statusOf(fold, JAR, 90 * H).state).toBe('quarantined');
		expect(statusOf(fold, JAR, 11 * H)).toMatchObject({ state: 'warming', quarantine: [], violations: [] });
	});
});

describe('a jar’s life drawn', () => {
	const drawn = (hour: number, events: JarEvent[], jar = JAR) => jarHistory(jar, events, hour * H).map((s) => [s.state, s.fromMs / H]);

	test('each state from when it began, in any order of entry, up to the instant asked', () => {
		const life: [string, number][] = [
			['received', 0],
			['cold', 1],
			['warming', 10],
			['ready', 14],
			['mixed', 15],
			['open', 16]
		];
		expect(drawn(50, OPEN)).toEqual(life);
		expect(drawn(50, [...OPEN].reverse())).toEqual(life);
		expect(drawn(15, OPEN)).toEqual(life.slice(0, 5));
		expect(drawn(14, OPEN)).toEqual(life.slice(0, 4));
		expect(drawn(14 - TICK, OPEN)).toEqual(life.slice(0, 3));
		expect(drawn(0, [])).toEqual([['received', 0]]);
	});

	test('held by its date or by its time out, from the moment after; a warm jar that is held once is not drawn warm again', () => {
		expect(drawn(2000, told(1, [1, 'store_cold']))).toEqual([
			['received', 0],
			['cold', 1],
			['quarantined', 1000 + TICK]
		]);
		expect(drawn(1000, told(1, [1, 'store_cold'])).at(-1)).toEqual(['cold', 1]);
		expect(drawn(82 + TICK, OUT).at(-1)).toEqual(['quarantined', 82 + TICK]);
	});

	test('continued from a fold it adds what the clocks brought about, and nothing where nothing did', () => {
		const fold = foldJar(JAR, OUT, 10 * H);
		const spans = jarHistory(JAR, OUT, 10 * H);
		expect(historyOn(spans, fold, JAR, 13 * H)).toEqual(spans);
		expect(historyOn(spans, fold, JAR, 14 * H)).toEqual([...spans, { state: 'ready', fromMs: 14 * H }]);
	});
});

describe('what may happen in which state', () => {
	const paths: Record<string, JarEvent[]> = {
		received: [],
		cold: told(1, [1, 'store_cold']),
		warming: told(1, [1, 'store_cold'], [46, 'take_out']),
		ready: told(1, [1, 'store_cold'], [40, 'take_out']),
		mixed: told(1, [1, 'store_cold'], [40, 'take_out'], [45, 'mix']),
		open: told(1, [1, 'store_cold'], [40, 'take_out'], [45, 'mix'], [46, 'open']),
		on_stencil: told(1, [1, 'store_cold'], [40, 'take_out'], [45, 'mix'], [46, 'open'], [47, 'load_stencil']),
		quarantined: told(1, [1, 'store_cold'], [40, 'excursion']),
		discarded: told(1, [1, 'discard']),
		empty: told(1, [1, 'store_cold'], [40, 'take_out'], [45, 'mix'], [46, 'open'], [47, 'load_stencil'], [47.5, 'empty'])
	};
	/** Where each act leads, by state; what is missing may not happen there. Common practice. */
	const LEADS: Record<string, Partial<Record<JarEventKind, string>>> = {
		received: { store_cold: 'cold', discard: 'discarded' },
		cold: { take_out: 'warming', excursion: 'quarantined', discard: 'discarded' },
		warming: { return_cold: 'cold', mix: 'quarantined', open: 'quarantined', discard: 'discarded' },
		ready: { return_cold: 'cold', mix: 'mixed', open: 'open', discard: 'discarded' },
		mixed: { mix: 'mixed', open: 'open', discard: 'discarded' },
		open: { mix: 'open', load_stencil: 'on_stencil', discard: 'discarded', empty: 'empty' },
		on_stencil: { load_stencil: 'on_stencil', scrape_off: 'open', discard: 'discarded', empty: 'empty' },
		quarantined: { review_ok: 'cold', discard: 'discarded', empty: 'empty' },
		discarded: {},
		empty: {}
	};
	const KINDS = [
		'store_cold',
		'take_out',
		'return_cold',
		'mix',
		'open',
		'load_stencil',
		'scrape_off',
		'discard',
		'empty',
		'excursion',
		'review_ok'
	] as const;

	test.each(Object.entries(paths))('%s', (state, events) => {
		expect(at(48, events).state).toBe(state);
		for (const kind of KINDS) {
			const s = at(49, [...events, ...told(50, [48, kind])]);
			const leads = LEADS[state]![kind];
			expect([kind, s.state]).toEqual([kind, leads ?? state]);
			expect(s.violations.some((v) => v.code === `illegal:${kind}_when_${state}`)).toBe(leads === undefined);
		}
	});
});

describe('a printed date is the whole of what is printed', () => {
	test.each(['x2026-05-31', '2026-05-31x', 'x2026-05', '2026-05x', '2026-05-31T08:00', '12026-05'])('%s is none', (printed) => {
		expect(() => expiryEnd(printed, 'UTC')).toThrow('expiry');
	});
});
