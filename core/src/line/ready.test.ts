import { describe, expect, test } from 'vitest';
import type { Level, Verdict } from '../judgement/index.ts';
import {
	BRIEFLY,
	holdsAt,
	judgeReady,
	missing,
	OVERRIDE_MS,
	READY_ITEMS,
	readyItems,
	readyLevel,
	refusesOverride,
	type Override,
	type ReadyCode,
	type ReadyFacts,
	type ReadySlot
} from './index.ts';

const H = 3_600_000;
const says = (level: Level, statement: string, ...doNext: string[]): Verdict => ({ level, statement, because: [], doNext });
const blade = (code: string, level: Level = 'good', nicked = false) => ({ code, nicked, verdict: says(level, '120 strokes.') });
const said = (code: string, ok: boolean, words: string) => ({ ok, codes: [code], words }) as ReadySlot['check'];
const slot = (label: string, check: ReadySlot['check'] = said('OK', true, 'right'), reported: string | null = null): ReadySlot => ({
	slot: Number(label.split('/')[1]),
	label,
	part: 'R-10K',
	where: `/place/2?slot=${label.split('/')[1]}`,
	check,
	reported
});
const PROVEN: ReadyFacts = {
	nowMs: 10 * H,
	stencil: { code: 'S-001', inPrinter: true, against: [] },
	fetchStencil: null,
	foil: says('good', '100 µm works.'),
	printRecipe: 2,
	support: says('good', 'Supported everywhere.'),
	blades: { F: blade('B-11'), R: blade('B-12') },
	bead: { paste: 'P-305', jars: ['J-0024'], endsMs: 16 * H },
	wanted: 'P-305',
	fetchJar: null,
	programRevision: 3,
	nozzlesOut: [],
	slots: [slot('Place 1/3'), slot('Place 2/4')],
	ovenRecipeRevision: 4,
	oven: says('good', 'Inside its window.')
};
const items = (more: Partial<ReadyFacts> = {}) => readyItems({ ...PROVEN, ...more });
const item = (code: ReadyCode, more: Partial<ReadyFacts>) => items(more).find((i) => i.code === code)!;
const open = (more: Partial<ReadyFacts>, overrides: Override[] = [], nowMs = 10 * H, started = false) =>
	missing(items(more), overrides, nowMs, started).map((i) => i.code);
const leave = (codes: ReadyCode[], atMs = 10 * H, untilMs: number | null = null): Override => ({
	codes,
	reason: 'first article, looked at by hand',
	by: 'D. Quill',
	atMs,
	untilMs
});

describe('the points of a set-up', () => {
	test('are nine, in the order of the work; all proven, nothing is left to do', () => {
		const all = items();
		expect(all.map((i) => i.code)).toEqual([...READY_ITEMS]);
		expect(new Set(all.map((i) => i.mark))).toEqual(new Set(['proven']));
		expect(all.every((i) => i.next === null && i.scan === null && !i.mayOverride)).toBe(true);
		expect(open({})).toEqual([]);
	});

	test.each<[string, ReadyCode, Partial<ReadyFacts>, 'open' | 'wrong', boolean, RegExp]>([
		['no stencil was scanned', 'stencil', { stencil: null }, 'open', true, /^Scan the stencil/],
		['the stencil was taken out', 'stencil', { stencil: { code: 'S-1', inPrinter: false, against: [] } }, 'open', false, /^Scan/],
		[
			'another board’s stencil',
			'stencil',
			{ stencil: { code: 'S-1', inPrinter: true, against: [{ why: 'S-1 prints another board.', fix: 'Fetch S-2' }] } },
			'wrong',
			false,
			/^Fetch S-2$/
		],
		[
			'a foil that does not work',
			'foil',
			{ foil: says('act', '150 µm does not work.', 'Release 100 µm') },
			'open',
			true,
			/^Release 100 µm$/
		],
		['a foil that was stopped', 'foil', { foil: says('stopped', 'No foil works.') }, 'open', true, /^Release another foil$/],
		['no print recipe', 'printRecipe', { printRecipe: null }, 'open', false, /^Release a print recipe$/],
		['support that nobody set', 'support', { support: null }, 'open', true, /^Set support pins$/],
		['a panel that sags', 'support', { support: says('act', 'Free for 60 mm.', 'Set a pin near 20, 30') }, 'open', true, /^Set a pin near/],
		['no blade in front', 'blades', { blades: { F: null, R: blade('B-12') } }, 'open', true, /^Scan the blades$/],
		['no blade at the rear', 'blades', { blades: { F: blade('B-11'), R: null } }, 'open', true, /^Scan the blades$/],
		['a worn blade', 'blades', { blades: { F: blade('B-11', 'act'), R: blade('B-12') } }, 'open', true, /^Replace the blade$/],
		['a nick', 'blades', { blades: { F: blade('B-11'), R: blade('B-12', 'act', true) } }, 'wrong', false, /^Replace the blade$/],
		['no paste was scanned', 'paste', { bead: null }, 'open', true, /^Open a jar of P-305/],
		['another paste', 'paste', { bead: { paste: 'P-417', jars: ['J-1'], endsMs: 16 * H } }, 'wrong', false, /^Take the bead off, wash/],
		[
			'paste past its life',
			'paste',
			{ bead: { paste: 'P-305', jars: ['J-1'], endsMs: 10 * H } },
			'wrong',
			false,
			/^Take the bead off and discard/
		],
		[
			'a slot that nobody scanned',
			'feeders',
			{ slots: [slot('Place 1/3'), slot('Place 2/4', null)] },
			'open',
			true,
			/^Scan Place 2\/4, its feeder and a reel of R-10K$/
		],
		[
			'a wrong part in a slot',
			'feeders',
			{ slots: [slot('Place 1/3', null), slot('Place 2/4', said('WRONG_PART', false, 'Slot 4 wants R-10K.'))] },
			'wrong',
			false,
			/^Take the feeder out of Place 2\/4 and scan the right one, with R-10K$/
		],
		['an empty reel', 'feeders', { slots: [slot('Place 1/3', said('EMPTY_REEL', false, 'L-1 is empty.'))] }, 'wrong', false, /^Take the/],
		['a recipe outside its window', 'ovenRecipe', { oven: says('act', 'Peak 4 °C low.', 'Zone 6 up 5 K') }, 'open', true, /^Zone 6 up/]
	])('%s: %s', (_, code, more, mark, mayOverride, next) => {
		const found = item(code, more);
		expect([found.mark, found.mayOverride]).toEqual([mark, mayOverride]);
		expect(found.next).toMatch(next);
		expect(open(more)).toEqual([code]);
	});

	test('what is only to be watched is proven: a foil near its limit, a blade to look at, a recipe with little room', () => {
		const watched = { foil: says('watch', '.'), oven: says('watch', '.'), support: says('watch', '.') };
		expect(open({ ...watched, blades: { F: blade('B-11', 'watch'), R: blade('B-12') } })).toEqual([]);
	});

	test('paste is good until its last instant, and what is left of it is said', () => {
		expect(open({ bead: { paste: 'P-305', jars: ['J-1'], endsMs: 10 * H + 1 } })).toEqual([]);
		expect(item('paste', {}).why).toBe('J-0024 on the stencil, good for 6.0 h more.');
		expect(item('paste', { bead: { paste: 'P-305', jars: ['J-1', 'J-2'], endsMs: null } }).why).toBe('J-1, J-2 on the stencil.');
	});

	test('how many slots are open is said, and which comes first with what the machine has told of it', () => {
		const feeders = (...slots: ReadySlot[]) => item('feeders', { slots }).why;
		expect(feeders(slot('P/1'), slot('P/2'))).toBe('All 2 slots of the program are right by scan.');
		expect(feeders()).toBe('The program takes nothing from a feeder.');
		expect(feeders(slot('P/1'), slot('P/2', null), slot('P/3', null))).toBe(
			'2 of 3 slots are not verified. P/2: Nobody has scanned what feeds there.'
		);
		expect(feeders(slot('P/2', null, 'L-9'))).toMatch(/The machine reports reel L-9, which nobody has scanned\.$/);
		expect(item('feeders', { slots: [slot('P/2', null)] })).toMatchObject({ scan: 'P/2', where: '/place/2?slot=2' });
	});

	test('what is to be scanned is named with its code, so that it can be fetched', () => {
		const fetch = { stencil: null, fetchStencil: { code: 'S-003', place: 'rack B3' }, bead: null, fetchJar: 'J-0025' };
		expect(item('stencil', fetch)).toMatchObject({ scan: 'S-003', next: 'Scan S-003 into the printer, from rack B3' });
		expect(item('paste', fetch)).toMatchObject({ scan: 'J-0025', next: 'Scan J-0025 onto the stencil' });
	});

	test('each mark has its level', () => {
		const wrong = item('blades', { blades: { F: blade('B-11', 'act', true), R: blade('B-12') } });
		const bare = item('support', { support: null });
		expect([readyLevel(items()[0]!, false), readyLevel(bare, false), readyLevel(bare, true), readyLevel(wrong, false)]).toEqual([
			'good',
			'act',
			'watch',
			'stopped'
		]);
	});
});

describe('an override', () => {
	test('holds from its first instant to the one before its last; for a run it has no end', () => {
		const half = leave(['support'], 10 * H, 10 * H + OVERRIDE_MS);
		expect(OVERRIDE_MS).toBe(30 * 60_000);
		expect([10 * H - 1, 10 * H, 10 * H + OVERRIDE_MS - 1, 10 * H + OVERRIDE_MS].map((ms) => holdsAt(half, ms))).toEqual([
			false,
			true,
			true,
			false
		]);
		expect(holdsAt(leave(['support']), 900 * H)).toBe(true);
	});

	test('covers what it names and nothing else, and only while it may be overridden', () => {
		const bare = { support: null, blades: { F: null, R: blade('B-12') } };
		expect(open(bare, [leave(['support'])])).toEqual(['blades']);
		expect(open(bare, [leave(['support', 'blades'])])).toEqual([]);
		// A stencil that was not scanned may be overridden; the wrong one that is scanned then may not.
		const wrong = { stencil: { code: 'S-1', inPrinter: true, against: [{ why: 'Wrong board.', fix: 'Fetch' }] } };
		expect(open({ stencil: null }, [leave(['stencil'])])).toEqual([]);
		expect(open(wrong, [leave(['stencil'])])).toEqual(['stencil']);
	});

	test('is refused without a reason, for what is proven, and for what must never run', () => {
		const refused = (codes: ReadyCode[], more: Partial<ReadyFacts>, reason = 'looked at by hand', wholeRun = false) =>
			refusesOverride(items(more), codes, reason, wholeRun);
		expect(refused(['support'], { support: null })).toBeNull();
		expect(refused(['support'], { support: null }, ' no ')).toMatch(/^Say why/);
		expect(refused(['support'], { support: null }, 'yes')).toBeNull();
		expect(refused([], { support: null })).toMatch(/^Say what/);
		expect(refused(['support'], {})).toBe('Support needs no override.');
		expect(refused(['paste'], { bead: { paste: 'P-417', jars: [], endsMs: null } })).toMatch(/^Paste: never by an override/);
		expect(refused(['support', 'paste'], { support: null, bead: { paste: 'P-305', jars: [], endsMs: 1 } })).toMatch(/past its life/);
		expect(refused(['printRecipe'], { printRecipe: null })).toMatch(/^Print recipe: never/);
		expect(refused(['feeders'], { slots: [slot('P/1', said('FLOOR_LIFE_EXPIRED', false, 'Bake it.'))] })).toMatch(/^Feeders: never/);
	});

	test('of slots that nobody scanned lasts for half an hour at most; other points may be overridden for the run', () => {
		const bare = { slots: [slot('P/1', null)], support: null };
		expect(BRIEFLY).toEqual(['feeders']);
		expect(refusesOverride(items(bare), ['feeders'], 'spare scanner', false)).toBeNull();
		expect(refusesOverride(items(bare), ['support', 'feeders'], 'spare scanner', true)).toMatch(
			/^Feeders: for 30 minutes at most. Scan P\/1/
		);
		expect(refusesOverride(items(bare), ['support'], 'spare scanner', true)).toBeNull();
	});
});

describe('once it prints', () => {
	test('stencil and paste have to hold always; what was looked at before the start is not asked again', () => {
		const worn = { blades: { F: blade('B-11', 'act'), R: blade('B-12') }, support: null, oven: says('act', '.') };
		expect(open(worn, [], 10 * H, true)).toEqual([]);
		expect(open({ stencil: { code: 'S-1', inPrinter: false, against: [] } }, [], 10 * H, true)).toEqual(['stencil']);
		expect(open({ bead: { paste: 'P-305', jars: [], endsMs: 9 * H } }, [], 10 * H, true)).toEqual(['paste']);
	});

	test('a wrong part stops it, an open slot or an empty reel does not: that one stops by itself', () => {
		const slots = (...some: ReadySlot[]) => open({ slots: some }, [], 10 * H, true);
		const empty = slot('P/1', said('EMPTY_REEL', false, 'L-1 is empty.'));
		const blocked = slot('P/2', said('REEL_BLOCKED', false, 'L-2 is blocked.'));
		expect(slots(slot('P/1', null))).toEqual([]);
		expect(slots(slot('P/1', null, 'L-9'))).toEqual([]);
		expect(slots(empty)).toEqual([]);
		expect(slots(empty, blocked)).toEqual(['feeders']);
		expect(item('feeders', { slots: [empty, blocked] }).why).toBe('P/2: L-2 is blocked. 1 more.');
	});

	test('what was overridden for half an hour stops it when that is over, unless it was proven meanwhile', () => {
		const half = [leave(['support'], 10 * H, 10.5 * H)];
		expect(open({ support: null }, half, 10.5 * H - 1, true)).toEqual([]);
		expect(open({ support: null }, half, 10.5 * H, true)).toEqual(['support']);
		expect(open({}, half, 11 * H, true)).toEqual([]);
		expect(open({ support: null }, [leave(['support'])], 20 * H, true)).toEqual([]);
	});
});

describe('what is said of a set-up', () => {
	const said = (more: Partial<ReadyFacts>, overrides: Override[] = [], started = false) =>
		judgeReady('J-7', items(more), overrides, 10 * H, started);

	test('ready asks for the start; not ready says the first reason and how many more; what is wrong comes before what is open', () => {
		expect(said({})).toMatchObject({
			level: 'act',
			statement: 'J-7 is ready: all 9 points are proven.',
			doNext: ['Start printing']
		});
		expect(said({}).because).toHaveLength(9);
		expect(said({ support: null })).toMatchObject({ level: 'act', doNext: ['Set support pins'] });
		const two = said({ stencil: null, bead: { paste: 'P-417', jars: [], endsMs: null } });
		expect(two).toMatchObject({ level: 'stopped' });
		expect(two.statement).toBe('J-7 is not ready: P-417 lies on the stencil; this run asks for P-305. And 1 more.');
	});

	test('printing, it is good; under an override it is watched and says whose', () => {
		expect(said({}, [], true)).toMatchObject({ level: 'good', statement: 'All 9 points of J-7 are proven.' });
		// Proven before the start, and no longer so: it prints on, and says which.
		const reported = { slots: [slot('P/1'), slot('P/2', null, 'L-9')] };
		expect(said(reported, [], true)).toMatchObject({
			level: 'watch',
			statement:
				'J-7 prints; 8 of 9 points are as they were proven. Feeders: 1 of 2 slots is not verified. P/2: The machine reports reel L-9, which nobody has scanned.',
			doNext: ['Scan P/2, its feeder and a reel of R-10K']
		});
		expect(said({ support: null }, [leave(['support'])], true)).toMatchObject({
			level: 'watch',
			statement: 'J-7 prints under an override: support. D. Quill: first article, looked at by hand',
			doNext: []
		});
		expect(said({ support: null }, [leave(['support'])])).toMatchObject({ level: 'watch', doNext: ['Start printing'] });
		expect(said({ bead: { paste: 'P-305', jars: [], endsMs: 1 } }, [], true)).toMatchObject({
			level: 'stopped',
			statement: 'J-7 may not go on: The paste on the stencil is past its life.'
		});
	});
});

test('a program that places with a nozzle out of service is not ready, and no override makes it so', () => {
	const out = { station: 'Place 1', name: 'N2', why: 'tip bent', where: '/place/3/picks' };
	const found = item('program', { nozzlesOut: [out, { ...out, name: 'N4' }] });
	expect(found).toMatchObject({ mark: 'wrong', mayOverride: false, where: '/place/3/picks', right: 'feeder.keep' });
	expect(found.why).toBe('Revision 3 places with nozzle N2 of Place 1, out of service: tip bent, and 1 more.');
	expect(open({ nozzlesOut: [out] }, [leave(['program'])])).toContain('program');
	expect(item('program', {}).mark).toBe('proven');
});
