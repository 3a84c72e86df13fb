import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
	afterPause,
	beadAge,
	beadOf,
	checkJar,
	dewPointC,
	expiryEnd,
	jarMoves,
	jarStatus,
	jobsInARow,
	judgePowder,
	PASTE_RULES,
	piecesOf,
	pickForRun,
	pickPaste,
	pullPlan,
	readSensorLog,
	refuses,
	reflowClock,
	suggestPowder,
	touchedBy,
	violationWords,
	warmUp,
	type JarEvent,
	type JarEventKind,
	type JarFacts
} from './index.ts';

const H = 3_600_000;
const at = (clock: string) => Date.parse(`2026-05-11T${clock}:00Z`);
const jar: JarFacts = {
	id: 'J17',
	lot: 'L4',
	paste: 'P-305',
	receivedMs: at('00:00') - 20 * 24 * H,
	expiryMs: Date.parse('2026-05-31T22:00:00Z'),
	grams: 500
};
let ids = 0;
const event = (kind: JarEventKind, ms: number, more: Partial<JarEvent> = {}): JarEvent => ({ id: ++ids, kind, atMs: ms, ...more });
const cold = () => event('store_cold', jar.receivedMs);
const usual = () => [
	cold(),
	event('take_out', at('05:00')),
	event('open', at('09:15'), { stirred: true }),
	event('load_stencil', at('09:30'), { grams: 200, stencil: 'S1' })
];

describe('the life of a jar', () => {
	test('cold, warm, open, on the stencil: each state governs by the clock that ends first', () => {
		const when = (ms: number) =>
			jarStatus(
				jar,
				usual().filter((e) => e.atMs <= ms),
				ms
			);
		expect(when(at('04:00'))).toMatchObject({ state: 'cold', governing: 'shelf_life' });
		expect(when(at('08:59')).state).toBe('warming');
		expect(when(at('09:00'))).toMatchObject({ state: 'ready', readyMs: at('09:00') });
		expect(when(at('09:20'))).toMatchObject({ state: 'open', governing: 'open_life' });
		expect(when(at('13:30'))).toMatchObject({
			state: 'on_stencil',
			governing: 'stencil_life',
			remainingH: 4,
			gramsLeft: 300,
			stencil: 'S1'
		});
		expect(when(at('17:31'))).toMatchObject({ discardNow: true, next: { action: 'Take it off the stencil and discard it' } });
	});

	test.each([
		['opened after two hours of warm-up', [event('open', at('07:00'), { stirred: true })], 'open_before_warm'],
		['stirred while cold, by a machine too', [event('mix', at('07:00'), { by: 'mixer' })], 'mix_before_warm'],
		[
			'back to the fridge twice',
			[event('return_cold', at('07:00')), event('take_out', at('08:00')), event('return_cold', at('08:30'))],
			'too_many_cold_returns'
		],
		['never opened for three days', [], 'unopened_warm_exceeded', at('05:00') + 73 * H],
		['past its date in the fridge', [event('return_cold', at('06:00'))], 'expired', jar.expiryMs + 1],
		[
			'on the stencil a day after it was opened',
			[event('open', at('09:30'), { stirred: true }), event('load_stencil', at('09:31') + 24 * H)],
			'open_life_exceeded_at_load',
			at('12:00') + 24 * H
		],
		['the fridge was warm', [event('return_cold', at('06:00')), event('excursion', at('06:30'))], 'fridge_excursion']
	])('%s puts it in quarantine', (_, more, code, now = at('10:00')) => {
		const status = jarStatus(jar, [cold(), event('take_out', at('05:00')), ...more], now);
		expect(status).toMatchObject({ state: 'quarantined', quarantine: [code], remainingH: null });
		expect(violationWords(code)).not.toBe(code);
	});

	test('a fact out of order is recorded and changes nothing; opened unstirred is recorded only', () => {
		const status = jarStatus(
			jar,
			[cold(), event('load_stencil', at('04:00')), event('take_out', at('05:00')), event('open', at('09:30'))],
			at('10:00')
		);
		expect(status.state).toBe('open');
		expect(status.violations.map((v) => v.code)).toEqual(['illegal:load_stencil_when_cold', 'opened_unstirred']);
	});

	test('a late entry and a mis-scan are told as they happened', () => {
		const wrong = event('discard', at('09:20'));
		const events = [...usual(), wrong, event('mis_scan', at('09:40'), { of: wrong.id })];
		expect(jarStatus(jar, events, at('10:00')).state).toBe('on_stencil');
		fc.assert(
			fc.property(fc.shuffledSubarray(events, { minLength: events.length }), (shuffled) => {
				expect(jarStatus(jar, shuffled, at('10:00'))).toEqual(jarStatus(jar, events, at('10:00')));
			})
		);
	});

	test('stencil life adds up over scrapes; open life is never paused', () => {
		const events = [...usual(), event('scrape_off', at('11:30')), event('load_stencil', at('14:00'), { grams: 100 })];
		const status = jarStatus(jar, events, at('15:00'));
		expect(status.stencilH).toBeCloseTo(3, 9);
		expect(status.clocks.find((c) => c.clock === 'open_life')!.endsMs).toBe(at('09:15') + 24 * H);
		expect(status.gramsLeft).toBe(200);
	});

	test('a jar of scraped-off paste brings every clock along', () => {
		const scraped: JarFacts = {
			...jar,
			id: 'J17-S',
			grams: 90,
			inherits: { openedMs: at('09:15'), stencilH: 7, sealedOutH: 4.25, coldReturns: 0 }
		};
		const status = jarStatus(scraped, [event('load_stencil', at('14:00'))], at('14:30'));
		expect(status).toMatchObject({ governing: 'stencil_life' });
		expect(status.remainingH).toBeCloseTo(0.5, 9);
	});

	test('a jar in quarantine may be reviewed and discarded, nothing else', () => {
		const held = [cold(), event('excursion', at('03:00'))];
		const ask = (kind: JarEventKind) => refuses(jar, jarStatus(jar, held, at('04:00')), { kind }, at('04:00')).map((r) => r.code);
		expect([ask('review_ok'), ask('discard'), ask('take_out')]).toEqual([[], [], ['quarantined']]);
	});

	test('an engineer’s review brings a quarantined jar back to where it was', () => {
		const status = jarStatus(
			jar,
			[cold(), event('excursion', at('03:00')), event('review_ok', at('04:00')), event('take_out', at('05:00'))],
			at('06:00')
		);
		expect(status).toMatchObject({ state: 'warming', quarantine: [] });
	});

	test('impossible jars and events are refused by name', () => {
		expect(() => checkJar({ ...jar, expiryMs: jar.receivedMs - 1 })).toThrow('J17.expiry');
		expect(() => checkJar({ ...jar, grams: -1 })).toThrow('J17.grams');
		expect(() => jarStatus(jar, [event('open', at('12:00'))], at('10:00'))).toThrow('J17.atMs');
		expect(() => jarStatus(jar, [event('load_stencil', at('09:00'), { grams: -5 })], at('10:00'))).toThrow('-5');
	});

	test('a printed day ends at midnight of the plant, a month with its last day, over a clock change too', () => {
		expect(new Date(expiryEnd('2026-05-31', 'Europe/Berlin')).toISOString()).toBe('2026-05-31T22:00:00.000Z');
		expect(new Date(expiryEnd('2026-10', 'Europe/Berlin')).toISOString()).toBe('2026-10-31T23:00:00.000Z');
		expect(() => expiryEnd('2026-02-31', 'UTC')).toThrow('2026-02-31');
		expect(() => expiryEnd('31.5.2026', 'UTC')).toThrow('31.5.2026');
	});
});

describe('what is asked is refused with why and what would make it right', () => {
	const ask = (events: JarEvent[], clock: string, asked: Parameters<typeof refuses>[2]) =>
		refuses(jar, jarStatus(jar, events, at(clock)), asked, at(clock));

	test('too cold: the clock time at which it opens', () => {
		const [reason] = ask([cold(), event('take_out', at('05:00'))], '07:10', { kind: 'open' });
		expect(reason).toMatchObject({ code: 'too_cold', atMs: at('09:00'), why: 'J17 opens in 1 h 50: warm-up 2 h 10 of 4 h 00.' });
	});

	test('a whole hour is never said as sixty minutes', () => {
		const [reason] = refuses(
			jar,
			jarStatus(jar, [cold(), event('take_out', at('05:00'))], at('05:00') + 9000),
			{ kind: 'open' },
			at('05:00') + 9000
		);
		expect(reason!.why).toBe('J17 opens in 4 h 00: warm-up 0 h 00 of 4 h 00.');
	});

	test('each state has its next step first; what the rules forbid keeps its reason', () => {
		const moves = (events: JarEvent[], clock: string, asked: Parameters<typeof jarMoves>[2] = {}) =>
			jarMoves(jar, jarStatus(jar, events, at(clock)), asked, at(clock)).map((m) => [m.kind, m.no?.code ?? null]);
		expect(moves([cold()], '04:00')[0]).toEqual(['take_out', null]);
		expect(moves([cold(), event('take_out', at('05:00'))], '06:00').slice(0, 2)).toEqual([
			['open', 'too_cold'],
			['return_cold', null]
		]);
		expect(moves([cold(), event('take_out', at('05:00'))], '09:30')[0]).toEqual(['mix', null]);
		const open = usual().slice(0, 3);
		expect(moves(open, '10:00')[0]).toEqual(['load_stencil', null]);
		expect(moves(open, '10:00', { wanted: { paste: 'P-BI' } })[0]).toEqual(['load_stencil', 'wrong_paste']);
		expect(moves([...open, event('discard', at('09:40'))], '10:00')).toEqual([]);
	});

	test('warm by the clock, cold by the thermometer, and dew', () => {
		const events = [cold(), event('take_out', at('05:00'))];
		expect(ask(events, '09:30', { kind: 'open', pasteC: 17 })[0]!.why).toContain('17.0 °C');
		expect(ask(events, '09:30', { kind: 'open', pasteC: 20, air: { airC: 28, rhPct: 70 } })[0]).toMatchObject({ code: 'dew' });
		expect(ask(events, '09:30', { kind: 'open', pasteC: 22, air: { airC: 24, rhPct: 50 } })).toEqual([]);
	});

	test('wrong paste for the job, another lot on the stencil, life used up', () => {
		const open = usual().slice(0, 3);
		expect(ask(open, '10:00', { kind: 'load_stencil', wanted: { paste: 'P-BI' } })[0]).toMatchObject({ code: 'wrong_paste' });
		expect(ask(open, '10:00', { kind: 'load_stencil', bead: { paste: 'P-305', lots: ['L3'] } })[0]).toMatchObject({ code: 'mixes_lots' });
		expect(ask(usual(), '18:00', { kind: 'load_stencil' })[0]).toMatchObject({ code: 'stencil_life' });
		expect(ask(open, '10:00', { kind: 'return_cold' })[0]).toMatchObject({ code: 'opened' });
	});

	test('nothing is refused that the fold then calls a violation, and nothing it allows breaks a rule', () => {
		const kinds: JarEventKind[] = ['store_cold', 'take_out', 'return_cold', 'mix', 'open', 'load_stencil', 'scrape_off'];
		const steps = fc.array(fc.record({ kind: fc.constantFrom(...kinds), afterH: fc.double({ min: 0.1, max: 9, noNaN: true }) }), {
			maxLength: 12
		});
		fc.assert(
			fc.property(steps, (list) => {
				const done: JarEvent[] = [];
				let now = jar.receivedMs;
				for (const { kind, afterH } of list) {
					now += afterH * H;
					const before = jarStatus(jar, done, now);
					if (refuses(jar, before, { kind }, now).length) continue;
					done.push(event(kind, now, { stirred: true }));
					const after = jarStatus(jar, done, now);
					expect(after.violations).toEqual(before.violations);
				}
			})
		);
	});
});

test('the pick: first expired first out, open before sealed, short paste leaves the fridge in time', () => {
	const picked = (id: string, expiry: string, events: JarEvent[], paste = 'P-305') => {
		const facts = { ...jar, id, paste, expiryMs: Date.parse(expiry) };
		return { jar: facts, status: jarStatus(facts, events, at('10:00')) };
	};
	const ready = () => [cold(), event('take_out', at('05:00'))];
	const jars = [
		picked('B', '2026-06-30T00:00Z', ready()),
		picked('A', '2026-05-20T00:00Z', ready()),
		picked('O', '2026-06-30T00:00Z', [...ready(), event('open', at('09:10'), { stirred: true })]),
		picked('C', '2026-05-15T00:00Z', [cold()]),
		picked('X', '2026-05-15T00:00Z', ready(), 'P-BI'),
		picked('W', '2026-06-15T00:00Z', [cold(), event('take_out', at('09:30'))])
	];
	const pick = pickPaste(jars, 'P-305', 1700, 6, at('11:00'), at('10:00'));
	expect(pick.take.map((t) => t.id)).toEqual(['O', 'A', 'B']);
	expect(pick.shortG).toBe(200);
	expect(pick.takeOut).toEqual([{ id: 'C', grams: 200, byMs: at('06:58'), late: true }]);
	expect(pick.excluded).toEqual([
		{ id: 'C', why: 'is in the fridge' },
		{ id: 'X', why: 'is P-BI' },
		{ id: 'W', why: 'not warm by then' }
	]);
	expect(pickPaste(jars, 'P-305', 100, 30, at('11:00'), at('10:00')).take).toEqual([]);
});

describe('jars for a run that is on', () => {
	const cold = () => event('store_cold', at('00:00') - H);
	const openedAt = (clock: string) => [
		cold(),
		event('take_out', at('02:00')),
		event('mix', at('06:50')),
		event('open', at(clock), { stirred: true })
	];
	const picked = (id: string, grams: number, list: JarEvent[]) => {
		const facts = { ...jar, id, grams };
		return { jar: facts, status: jarStatus(facts, list, at('10:00')) };
	};
	const onStencil = picked('S', 500, [...openedAt('07:00'), event('load_stencil', at('07:00'), { grams: 100 })]);
	const run = { paste: 'P-305', panelsPerH: 60, gPerPanel: 1, beadG: 60, own: new Set(['S']) };

	test('what lies on the stencil serves alone where it lasts', () => {
		const pick = pickForRun([onStencil, picked('C', 500, [cold()])], { ...run, panelsToGo: 120 }, at('10:00'));
		expect(pick).toMatchObject({
			needG: 120,
			jobH: 2,
			own: { ids: ['S'], servesG: 120 },
			followMs: null,
			take: [],
			takeOut: [],
			shortG: 0
		});
	});

	test('past its life another jar follows: one that is warm by then comes before one that still has to leave the fridge', () => {
		// Eight hours on the stencil end at 15:00: 300 of 480 panels.
		const warming = picked('W', 500, [cold(), event('take_out', at('09:30'))]);
		const long = { ...run, panelsToGo: 480 };
		const pick = pickForRun([onStencil, warming, picked('C', 500, [cold()])], long, at('10:00'));
		expect(pick).toMatchObject({ own: { servesG: 300 }, followMs: at('15:00'), take: [{ id: 'W', grams: 180 }], takeOut: [], shortG: 0 });
		const only = pickForRun([onStencil, picked('C', 500, [cold()])], long, at('10:00'));
		expect(only).toMatchObject({ shortG: 180, takeOut: [{ id: 'C', grams: 180, byMs: at('10:58'), late: false }] });
	});

	test('used up before its life ends, and nothing on the stencil at all', () => {
		const little = picked('S', 160, [...openedAt('07:00'), event('load_stencil', at('07:00'), { grams: 100 })]);
		expect(pickForRun([little], { ...run, panelsToGo: 240 }, at('10:00'))).toMatchObject({
			own: { servesG: 120 },
			followMs: at('12:00'),
			shortG: 120
		});
		const bare = pickForRun([picked('C', 500, [cold()])], { ...run, own: new Set(), panelsToGo: 60 }, at('10:00'));
		expect(bare).toMatchObject({ own: { ids: [], servesG: 0 }, followMs: at('10:00'), shortG: 60, takeOut: [{ id: 'C', late: true }] });
	});
});

test('jobs in a row: one change-over between two; a long one in pieces that keep its grams and its time', () => {
	const row = jobsInARow(
		[
			{ number: 'A', panels: 60, gPerPanel: 0.5, cycleS: 60 },
			{ number: 'B', panels: 540, gPerPanel: 0.2, cycleS: 60 }
		],
		at('06:00'),
		30
	);
	expect(row).toMatchObject([
		{ startMs: at('06:00'), endMs: at('07:00'), grams: 30 },
		{ startMs: at('07:30'), endMs: at('16:30'), grams: 108 }
	]);
	expect(piecesOf(row[0]!)).toEqual([{ id: 'A', startMs: at('06:00'), endMs: at('07:00'), grams: 30 }]);
	expect(piecesOf(row[1]!)).toEqual([
		{ id: 'B, part 1', startMs: at('07:30'), endMs: at('10:30'), grams: 36 },
		{ id: 'B, part 2', startMs: at('10:30'), endMs: at('13:30'), grams: 36 },
		{ id: 'B, part 3', startMs: at('13:30'), endMs: at('16:30'), grams: 36 }
	]);
});

describe('sensors', () => {
	const limits = { lowC: 2, highC: 10, graceMin: 30, neverBelowZero: true };
	const log = (values: [number, number][]) =>
		readSensorLog(
			values.map(([min, temperatureC]) => ({ atMs: min * 60_000, temperatureC })),
			limits
		);

	test('a long warm spell counts, a short one does not, frost counts at once', () => {
		expect(
			log([
				[0, 5],
				[10, 12],
				[20, 12],
				[30, 13],
				[45, 12],
				[60, 6]
			]).excursions
		).toMatchObject([{ kind: 'high', worst: 13, open: false }]);
		expect(
			log([
				[0, 5],
				[10, 12],
				[20, 12],
				[30, 6]
			]).excursions
		).toEqual([]);
		expect(
			log([
				[0, 5],
				[10, -0.5],
				[20, 3]
			]).excursions
		).toMatchObject([{ kind: 'freezing', worst: -0.5 }]);
	});

	test('a gap is no data and nothing holds across it', () => {
		expect(
			log([
				[0, 12],
				[15, 12],
				[90, 12],
				[100, 5]
			])
		).toEqual({ excursions: [], gaps: [{ fromMs: 15 * 60_000, toMs: 90 * 60_000 }] });
	});

	test('an excursion names who was there', () => {
		const stays = [
			{ id: 'a', fromMs: 0, toMs: 10 },
			{ id: 'b', fromMs: 0, toMs: null },
			{ id: 'c', fromMs: 50, toMs: null }
		];
		expect(touchedBy({ fromMs: 20, toMs: 40 }, stays).map((s) => s.id)).toEqual(['b']);
	});

	test('readings that no sensor gives are refused by field', () => {
		expect(() => readSensorLog([{ atMs: 0, temperatureC: 5, rhPct: 140 }], limits)).toThrow('readings[0].rhPct');
		expect(() => dewPointC(70, 50)).toThrow('airC');
	});
});

test('air too cool never warms a jar', () => {
	expect(warmUp(5, 18, 19)).toMatchObject({ gateH: null });
	expect(warmUp(5, 20, 19.9).gateH).toBeGreaterThan(4);
});

test('the ladder of pauses: exactly on a step is the milder one', () => {
	expect([20, 21, 60, 61, 240, 241].map((m) => afterPause(m).step)).toEqual(['none', 'knead', 'knead', 'freshen', 'freshen', 'remove']);
	expect(reflowClock(0, 2 * H).level).toBe('stopped');
	expect(reflowClock(0, 1.5 * H).level).toBe('act');
});

test('the coarsest powder that passes', () => {
	expect([225, 224, 190, 125, 75, 74].map((w) => suggestPowder(w))).toEqual(['T3', 'T4', 'T4', 'T5', 'T6', null]);
	expect(suggestPowder(250, 'circle', 'eight')).toBe('T5');
});

test('a paste’s powder against the narrowest opening: too coarse is said with the one to take, the other school beside it', () => {
	expect(judgePowder('T4', { slotUm: 190, circleUm: null }).level).toBe('good');
	expect(judgePowder('T4', { slotUm: 189, circleUm: null })).toMatchObject({
		level: 'act',
		statement: 'Powder T4 is too coarse for 189 µm: five balls need 190 µm.',
		doNext: ['Take a paste with T5']
	});
	expect(judgePowder('T6', { slotUm: 70, circleUm: null }).doNext).toEqual(['Widen that opening: no powder is fine enough']);
	// Eight balls of T4 are 304 µm.
	expect(judgePowder('T4', { slotUm: 250, circleUm: 250 }).statement).toContain('eight balls');
	expect(judgePowder('T4', { slotUm: 250, circleUm: 304 }).statement).not.toContain('eight balls');
});

test('a bead is a stirred tank: prints take from all of it, the oldest gram governs', () => {
	const portions = beadOf(
		[
			{ atMs: 0, kind: 'load', jar: 'A', lot: 'L', grams: 100 },
			{ atMs: 1 * H, kind: 'print', grams: 50 },
			{ atMs: 1 * H, kind: 'load', jar: 'B', lot: 'L', grams: 50 },
			{ atMs: 2 * H, kind: 'print', grams: 50 }
		],
		3 * H
	);
	expect(portions.map((p) => [p.jar, p.grams])).toEqual([
		['A', 25],
		['B', 25]
	]);
	expect(beadAge(portions, 8.5 * H, 8)).toMatchObject({ grams: 50, oldestEndsMs: 8 * H, olderShare: 0.5 });
	expect(
		beadOf(
			[
				{ atMs: 0, kind: 'load', jar: 'A', lot: 'L', grams: 9 },
				{ atMs: 1, kind: 'clear' }
			],
			2
		)
	).toEqual([]);
});

test('the fridge plan serves every job it can, in time, and never opens a jar it does not need', () => {
	const jobs = [0, 6, 30].map((h, i) => ({ id: `j${i}`, startMs: h * H, endMs: (h + 5) * H, grams: 200 }));
	const jars = [250, 500, 500].map((grams, i) => ({ id: `k${i}`, grams, expiryMs: 900 * H, readyMs: 0, openEndsMs: null }));
	const plan = pullPlan(jobs, jars);
	// 500 g for the first two (one open life), 250 g for the one a day later.
	expect(plan).toMatchObject({ shortG: 0, discardedG: 150 });
	expect(plan.opens.map((o) => o.jar)).toContain('k0');
	expect(pullPlan(jobs, [{ ...jars[0]!, readyMs: 20 * H }]).short.map((s) => s.job)).toEqual(['j0', 'j1']);
	expect(pullPlan(jobs, jars.slice(0, 1), PASTE_RULES, 3)).toEqual(pullPlan(jobs, jars.slice(0, 1), PASTE_RULES, 3));
});
