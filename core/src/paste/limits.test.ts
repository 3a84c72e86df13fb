import { describe, expect, test } from 'vitest';
import {
	abandonSteps,
	afterPause,
	dewPointC,
	jarC,
	jarStatus,
	judgeLeftBead,
	judgePaste,
	PASTE_RULES,
	pasteFindings,
	reflowClock,
	safeOpeningC,
	warmUp,
	warmUpGateH,
	type JarEvent,
	type JarEventKind,
	type JarFacts,
	type PasteRules,
	type PasteStation
} from './index.ts';

const MIN = 60_000;
const H = 60 * MIN;

describe('a printer that stood', () => {
	test.each([
		[0, 'none', 0],
		[20, 'none', 0],
		[20.01, 'knead', 1],
		[60, 'knead', 1],
		[60.01, 'freshen', 2],
		[240, 'freshen', 2],
		[240.01, 'remove', 2]
	] as const)('for %d min asks for: %s', (gapMin, step, panels) => {
		expect(afterPause(gapMin)).toMatchObject({ step, fullCheckPanels: panels });
	});

	test('climbs at 20, 60 and 240 min after its last print, and each step says what to do first', () => {
		expect(abandonSteps(7 * H).map((s) => [s.step, (s.atMs - 7 * H) / MIN, s.doFirst[0]])).toEqual([
			['knead', 20, 'Knead with 2 to 4 strokes'],
			['freshen', 60, 'Wipe'],
			['remove', 240, 'Take the paste off']
		]);
	});
});

describe('from the print to the oven', () => {
	const after = (hours: number, actH?: number, stopH?: number) => reflowClock(5 * H, 5 * H + hours * H, actH, stopH);

	test('a panel is brought from one hour on and stopped from two, on the instant', () => {
		const last = 1 / H;
		expect([0, 1 - last, 1, 2 - last, 2, 9].map((h) => after(h).level)).toEqual(['good', 'good', 'act', 'act', 'stopped', 'stopped']);
		expect(after(0)).toMatchObject({ actMs: 6 * H, stopMs: 7 * H });
	});

	test('goes by the hours of the paste, and says them', () => {
		expect(after(1.5, 2, 4).level).toBe('good');
		expect(after(2, 2, 4).statement).toBe('Printed more than 2 h ago: bring it to the oven.');
		expect(after(4, 2, 4).statement).toMatch(/^Printed more than 4 h ago: an engineer decides/);
	});
});

describe('air and warmth', () => {
	// Magnus over water, checked by hand: at 20 °C and 50 % the dew point is 9.26 °C.
	test.each([
		[25, 55, 15.33],
		[20, 50, 9.26],
		[23, 100, 23],
		[23, 40, 8.7]
	])('air of %d °C and %d %% dews at %d °C', (airC, rhPct, expected) => {
		expect(dewPointC(airC, rhPct)).toBeCloseTo(expected, 1);
		expect(safeOpeningC(airC, rhPct) - dewPointC(airC, rhPct)).toBeCloseTo(3, 9);
	});

	test('what is no air is refused by field, its edges are taken', () => {
		for (const [airC, rhPct] of [
			[-10, 1],
			[50, 100]
		] as const)
			expect(() => dewPointC(airC, rhPct)).not.toThrow();
		expect(() => dewPointC(-10.1, 50)).toThrow('airC');
		expect(() => dewPointC(50.1, 50)).toThrow('airC');
		expect(() => dewPointC(20, 0.9)).toThrow('rhPct');
		expect(() => dewPointC(20, 100.1)).toThrow('rhPct');
	});

	test('a jar loses 63 % of the difference in one time constant, and nothing before it stands there', () => {
		expect(jarC(5, 25, 1)).toBeCloseTo(25 - 20 / Math.E, 9);
		expect(jarC(5, 25, 2, 2)).toBeCloseTo(25 - 20 / Math.E, 9);
		expect(jarC(5, 25, -3)).toBe(5);
	});

	test('the later of rule and physics opens it', () => {
		expect(warmUp(5, 23, 20).physicsH).toBeCloseTo(Math.log(18 / 3), 9);
		expect(warmUp(5, 23, 20).gateH).toBe(4);
		expect(warmUp(5, 23, 20, 1).gateH).toBeCloseTo(1.7918, 4);
		expect(warmUp(5, 20, 20).gateH).toBeNull();
		expect(warmUp(20, 20, 20)).toMatchObject({ physicsH: 0, gateH: 4 });
		expect(warmUpGateH(5, 23, 20, 1)).toBe(warmUp(5, 23, 20, 1).gateH);
		expect(warmUpGateH(5, 19, 19, 4)).toBeNull();
	});
});

describe('the clocks of a jar', () => {
	const jar: JarFacts = {
		id: 'J-1',
		paste: 'P-305',
		lot: 'L4',
		grams: 500,
		receivedMs: 0,
		expiryMs: 1000 * H
	} as JarFacts;
	/** Events by the hour. */
	const told = (...events: [number, JarEventKind, Partial<JarEvent>?][]): JarEvent[] =>
		events.map(([hour, kind, more], id) => ({ id, atMs: hour * H, kind, ...more }) as JarEvent);
	const at = (hour: number, events: JarEvent[], rules: Partial<PasteRules> = {}) =>
		jarStatus(
			jar,
			events.filter((e) => e.atMs <= hour * H),
			hour * H,
			{ ...PASTE_RULES, ...rules }
		);
	const OUT = told([1, 'store_cold'], [10, 'take_out', { airC: 23 }]);
	const OPEN = [...OUT, ...told([15, 'mix'], [16, 'open']).map((e, i) => ({ ...e, id: 10 + i }))];
	const LOADED = [...OPEN, { id: 20, atMs: 17 * H, kind: 'load_stencil', grams: 200, stencil: 'S-1' } as JarEvent];
	const tick = 1 / H;

	test('warming ends four hours out of the fridge', () => {
		expect(at(14 - tick, OUT)).toMatchObject({ state: 'warming', readyMs: 14 * H });
		expect(at(14, OUT).state).toBe('ready');
		expect(at(15 - tick, OUT, { warmUpH: 5 }).state).toBe('warming');
	});

	test('sealed it stands out for 72 hours in all, stays added up', () => {
		expect(at(82, OUT).state).toBe('ready');
		expect(at(82 + tick, OUT)).toMatchObject({ state: 'quarantined', quarantine: ['unopened_warm_exceeded'] });
		const twice = told([1, 'store_cold'], [10, 'take_out'], [40, 'return_cold'], [50, 'take_out']);
		// 30 of its 72 hours are used: 42 are left.
		expect(at(92, twice).state).toBe('ready');
		expect(at(92 + tick, twice).state).toBe('quarantined');
	});

	test('it goes back into the fridge once', () => {
		const back = told([1, 'store_cold'], [10, 'take_out'], [12, 'return_cold'], [20, 'take_out'], [22, 'return_cold']);
		expect(at(12, back)).toMatchObject({ state: 'cold', coldReturns: 1 });
		expect(at(22, back)).toMatchObject({ state: 'quarantined', quarantine: ['too_many_cold_returns'], coldReturns: 2 });
		expect(at(22, back, { coldReturns: 2 }).state).toBe('cold');
	});

	test('its date counts to its last instant', () => {
		expect(at(1000, told([1, 'store_cold'])).state).toBe('cold');
		expect(at(1000 + tick, told([1, 'store_cold']))).toMatchObject({ state: 'quarantined', quarantine: ['expired'] });
	});

	test('opened it lasts 24 hours, on the stencil 8: the one that ends first governs', () => {
		expect(at(40 - tick, OPEN)).toMatchObject({ governing: 'open_life', untilMs: 40 * H, discardNow: false });
		expect(at(40, OPEN)).toMatchObject({ discardNow: true, remainingH: 0, next: { action: 'Discard it' } });
		expect(at(25 - tick, LOADED)).toMatchObject({ governing: 'stencil_life', untilMs: 25 * H, discardNow: false, stencil: 'S-1' });
		expect(at(25, LOADED)).toMatchObject({ discardNow: true, next: { action: 'Take it off the stencil and discard it' } });
		expect(at(25, LOADED, { stencilLifeH: 23, openLifeH: 10 })).toMatchObject({ governing: 'open_life', untilMs: 26 * H });
	});

	test('off the stencil its hours there stand still, and go on when it is loaded again', () => {
		const events = [
			...LOADED,
			...(
				[
					[20, 'scrape_off'],
					[30, 'load_stencil']
				] as const
			).map(([hour, kind], i) => ({ id: 30 + i, atMs: hour * H, kind }) as JarEvent)
		];
		expect(at(29, events)).toMatchObject({ state: 'open', stencilH: 3, stencil: null });
		expect(at(31, events)).toMatchObject({ state: 'on_stencil', stencilH: 4, untilMs: 35 * H });
	});

	test('loading it at the last instant of its open life is right, a moment later is not', () => {
		const load = (hour: number) => [...OPEN, { id: 20, atMs: hour * H, kind: 'load_stencil' } as JarEvent];
		expect(at(40, load(40)).violations).toEqual([]);
		expect(at(41, load(40 + tick)).quarantine).toEqual(['open_life_exceeded_at_load']);
	});

	test('what went on the stencil is no longer in it, never less than nothing', () => {
		expect(at(18, LOADED).gramsLeft).toBe(300);
		const more = (grams: number) => [...LOADED, { id: 30, atMs: 18 * H, kind: 'load_stencil', grams } as JarEvent];
		expect(at(18, more(300)).gramsLeft).toBe(0);
		expect(at(18, more(301)).gramsLeft).toBe(0);
		expect(at(19, [...LOADED, { id: 30, atMs: 19 * H, kind: 'empty' } as JarEvent])).toMatchObject({
			state: 'empty',
			gramsLeft: 0,
			next: null
		});
	});

	test('one that was stirred or opened cold is held, one opened unstirred is noted', () => {
		expect(at(12, [...OUT, { id: 9, atMs: 12 * H, kind: 'mix' } as JarEvent]).quarantine).toEqual(['mix_before_warm']);
		expect(at(12, [...OUT, { id: 9, atMs: 12 * H, kind: 'open' } as JarEvent]).quarantine).toEqual(['open_before_warm']);
		const unstirred = [...OUT, { id: 9, atMs: 15 * H, kind: 'open' } as JarEvent];
		expect(at(15, unstirred)).toMatchObject({ state: 'open', violations: [{ code: 'opened_unstirred' }] });
		expect(at(15, unstirred, { stir: 'none' }).violations).toEqual([]);
		expect(at(16, OPEN).violations).toEqual([]);
	});

	test('each state says its next step', () => {
		const next = (hour: number, events: JarEvent[]) => at(hour, events).next?.action;
		expect([
			next(0, []),
			next(2, OUT),
			next(11, OUT),
			next(14, OUT),
			next(15, OPEN),
			next(16, OPEN),
			next(18, LOADED),
			next(90, OUT)
		]).toEqual([
			'Put it in the fridge',
			'Take it out before its date',
			'May be stirred and opened',
			'Stir and open it, or put it back',
			'Open it',
			'Use it up or discard it',
			'Take the bead off the stencil',
			'An engineer reviews it: keep or discard'
		]);
	});
});

describe('what is said of the paste on a line', () => {
	const calm: PasteStation = {
		nowMs: 10 * H,
		wanted: 'P-305',
		beadG: 180,
		lots: ['L4'],
		oldestEndsMs: 14 * H,
		olderShare: 0.25,
		lifeH: 8,
		afterPause: null,
		gapMin: 1,
		reflow: { act: [], stopped: [] },
		discard: [],
		quarantined: [],
		room: { temperatureC: 23.5, rhPct: 48, inside: true },
		roomLimits: '22 to 26 °C, 40 to 60 %',
		shortG: 0,
		takeOut: []
	};
	const judge = (change: Partial<PasteStation>) => judgePaste({ ...calm, ...change });

	test('its life is watched within the last half hour and acted on at its end', () => {
		const left = (ms: number) => judge({ oldestEndsMs: calm.nowMs + ms });
		expect(left(30 * MIN).level).toBe('good');
		expect(left(30 * MIN - 1)).toMatchObject({ level: 'watch', statement: 'The paste on the stencil lasts 30 min more.' });
		expect(left(1).level).toBe('watch');
		expect(left(0)).toMatchObject({ level: 'act', statement: 'The paste on the stencil is past its life.' });
		expect(left(4 * H).because[0]).toMatchObject({
			value: 4,
			unit: 'h left',
			limit: '8 h',
			formula: 'stirred tank: 25 % of the bead is older'
		});
	});

	test('one of several things is said in the singular, several in the plural', () => {
		expect(judge({ reflow: { act: ['P-7'], stopped: [] } }).statement).toBe('P-7 waits too long for the oven.');
		expect(judge({ reflow: { act: ['P-7', 'P-8'], stopped: [] } }).statement).toBe('2 panels wait too long for the oven.');
		expect(judge({ reflow: { act: [], stopped: ['P-7'] } }).statement).toBe('P-7 was printed too long ago.');
		expect(judge({ reflow: { act: [], stopped: ['P-7', 'P-8'] } }).statement).toBe('2 panels were printed too long ago.');
		expect(judge({ discard: ['J-1'] }).statement).toBe('J-1 is past its life.');
		expect(judge({ discard: ['J-1', 'J-2'] }).statement).toBe('J-1, J-2 are past their life.');
	});

	test('missing grams name the jar that leaves the fridge, and how soon; without one, to order', () => {
		expect(judge({ shortG: 0.2, takeOut: [{ id: 'J-3', late: false }] })).toMatchObject({
			statement: '1 g are missing for this run.',
			doNext: ['Take J-3 out of the fridge in time']
		});
		expect(
			judge({
				shortG: 90,
				takeOut: [
					{ id: 'J-3', late: false },
					{ id: 'J-4', late: true }
				]
			}).doNext
		).toEqual(['Take J-3, J-4 out of the fridge now']);
		expect(judge({ shortG: 90 }).doNext).toEqual(['Order paste: no jar in the fridge serves it']);
		expect(judge({ shortG: 0 }).level).toBe('good');
	});

	test('a review is marked as one, with the jar that it begins with; nothing else is', () => {
		const found = pasteFindings({ ...calm, quarantined: ['J-5', 'J-6'], discard: ['J-1'], reflow: { act: [], stopped: ['P-7'] } });
		expect(found.map((f) => [f.level, f.review, f.jar])).toEqual([
			['stopped', true, null],
			['act', false, null],
			['watch', true, 'J-5']
		]);
		expect(found.slice(1).every((f) => f.because.length === 0)).toBe(true);
	});

	test('what cannot be known comes before what is watched, and after what is due', () => {
		expect(pasteFindings({ ...calm, beadG: null, oldestEndsMs: null, room: null, discard: ['J-1'] }).map((f) => f.level)).toEqual([
			'act',
			'noData',
			'watch'
		]);
	});

	test('the room is said with its humidity where that is known', () => {
		expect(judge({ room: { temperatureC: 27.04, rhPct: 61.4, inside: false } }).statement).toBe(
			'The room is at 27.0 °C and 61 %, outside 22 to 26 °C, 40 to 60 %.'
		);
		expect(judge({ room: { temperatureC: 27.04, rhPct: null, inside: false } }).statement).toBe(
			'The room is at 27.0 °C, outside 22 to 26 °C, 40 to 60 %.'
		);
	});

	test('without a run only what has to be thrown away is asked for', () => {
		expect(judge({ wanted: null, discard: ['J-1'], shortG: 90 })).toMatchObject({ level: 'noData', doNext: ['Discard J-1'] });
		expect(judge({ wanted: null })).toMatchObject({ level: 'noData', doNext: [] });
	});
});

describe('paste that lies on a stencil while no run is on', () => {
	test('is to be watched, and to be taken off once it is past its life, on the instant', () => {
		expect(judgeLeftBead(0, [], null, 0)).toBeNull();
		expect(judgeLeftBead(140.4, ['J-1', 'J-2'], 5 * H, 5 * H - 1)).toMatchObject({
			level: 'watch',
			statement: '140 g of J-1, J-2 lie on the stencil, and no run is on.'
		});
		expect(judgeLeftBead(140, ['J-1'], null, 5 * H)!.level).toBe('watch');
		expect(judgeLeftBead(140, ['J-1'], 5 * H, 5 * H)).toMatchObject({ level: 'act', doNext: ['Take the bead off and discard it'] });
	});
});
