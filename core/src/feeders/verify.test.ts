import { describe, expect, test } from 'vitest';
import * as fc from 'fast-check';
import {
	dockFeeder,
	judgeDocked,
	reelTakenSince,
	SCAN_CODES,
	slotMark,
	spliceReel,
	tieReel,
	type FeederSetUp,
	type ScanCode,
	type ScannedFeeder,
	type ScannedReel,
	type SlotNeed,
	type StandingSlot
} from './verify.ts';

const need = (slot: number, part: string, more: Partial<SlotNeed> = {}): SlotNeed => ({
	slot,
	part,
	alternates: [],
	tapeMm: 8,
	pitchMm: 4,
	quadrant: null,
	value: null,
	...more
});
const feeder = (id: string, reel: string | null, more: Partial<ScannedFeeder> = {}): ScannedFeeder => ({
	id,
	tapeMm: 8,
	pitchMm: 4,
	reel,
	outOfService: null,
	...more
});
const reel = (id: string, part: string, more: Partial<ScannedReel> = {}): ScannedReel => ({
	id,
	part,
	tapeMm: 8,
	pieces: 3000,
	blocked: null,
	quadrant: null,
	measured: null,
	floorLifeLeftH: null,
	...more
});
/** Slot 12 wants a 10k resistor, for which one other is released and one is only listed; slot 14 a diode. */
const SET_UP: FeederSetUp = {
	slots: 60,
	needs: [
		need(12, 'R-10K', {
			alternates: [
				{ part: 'R-10K-B', approved: true },
				{ part: 'R-10K-C', approved: false }
			],
			value: { nominal: 10_000, tolerancePct: 1 }
		}),
		need(14, 'D-SCH', { quadrant: 1 })
	],
	feeders: [feeder('F-1', 'L-1'), feeder('F-2', null), feeder('F-3', 'L-3')],
	reels: [reel('L-1', 'R-10K'), reel('L-2', 'R-10K'), reel('L-3', 'D-SCH', { quadrant: 1 })],
	runH: 6
};
/** With one thing about the reel in F-1 otherwise. */
const withReel = (more: Partial<ScannedReel>): FeederSetUp => ({
	...SET_UP,
	reels: [{ ...SET_UP.reels[0]!, ...more }, ...SET_UP.reels.slice(1)]
});
const withFeeder = (more: Partial<ScannedFeeder>): FeederSetUp => ({
	...SET_UP,
	feeders: [{ ...SET_UP.feeders[0]!, ...more }, ...SET_UP.feeders.slice(1)]
});

describe('docking', () => {
	test('the right reel in the right slot may run', () => {
		expect(dockFeeder(SET_UP, 12, 'F-1')).toEqual({ ok: true, codes: ['OK'], words: 'R-10K is right in slot 12.' });
		expect(dockFeeder(withReel({ part: 'R-10K-B' }), 12, 'F-1')).toMatchObject({ ok: true, codes: ['OK_ALTERNATE'] });
	});

	test.each([
		['a slot that is none', SET_UP, 61, 'F-1', 'UNKNOWN_SLOT'],
		['slot 0', SET_UP, 0, 'F-1', 'UNKNOWN_SLOT'],
		['half a slot', SET_UP, 1.5, 'F-1', 'UNKNOWN_SLOT'],
		['a feeder that is none', SET_UP, 12, 'F-9', 'UNKNOWN_FEEDER'],
		['a feeder with nothing in it', SET_UP, 12, 'F-2', 'FEEDER_NOT_TIED'],
		['a reel that nobody received', withFeeder({ reel: 'L-9' }), 12, 'F-1', 'UNKNOWN_REEL'],
		['a part of another slot', SET_UP, 12, 'F-3', 'WRONG_SLOT'],
		['an alternate of another slot', withReel({ part: 'R-10K-B' }), 14, 'F-1', 'WRONG_SLOT'],
		['an empty slot, and a part that is wanted', SET_UP, 20, 'F-1', 'WRONG_SLOT'],
		['an empty slot, and a part that is wanted nowhere', withReel({ part: 'C-1U' }), 20, 'F-1', 'NOT_NEEDED'],
		['a part that is listed and not released', withReel({ part: 'R-10K-C' }), 12, 'F-1', 'ALTERNATE_NOT_APPROVED'],
		['another part', withReel({ part: 'R-22K' }), 12, 'F-1', 'WRONG_PART'],
		['a reel that is blocked', withReel({ blocked: 'wrong date code' }), 12, 'F-1', 'REEL_BLOCKED'],
		['an empty reel', withReel({ pieces: 0 }), 12, 'F-1', 'EMPTY_REEL'],
		['a pitch that is set otherwise', withFeeder({ pitchMm: 2 }), 12, 'F-1', 'FEEDER_TYPE'],
		['a feeder for other tape', withFeeder({ tapeMm: 12 }), 12, 'F-1', 'FEEDER_TYPE'],
		['a reel past its floor life', withReel({ floorLifeLeftH: 0 }), 12, 'F-1', 'FLOOR_LIFE_EXPIRED']
	] as const)('%s', (_, setUp, slot, id, code) => {
		const said = dockFeeder(setUp, slot, id);
		expect(said.codes[0]).toBe(code);
		expect(said.ok).toBe(false);
		expect(said.words).toMatch(/^[A-Z].*\.$/);
	});

	test('the slot that wants the part is named', () => {
		expect(dockFeeder(SET_UP, 12, 'F-3').words).toBe('D-SCH is wanted in slot 14, not in 12.');
	});

	test('a turned pocket is refused where it matters, and only where the label says it', () => {
		const turned = (quadrant: ScannedReel['quadrant']): FeederSetUp => ({
			...SET_UP,
			reels: SET_UP.reels.map((r) => (r.id === 'L-3' ? { ...r, quadrant } : r))
		});
		expect(dockFeeder(turned(3), 14, 'F-3').codes).toEqual(['ORIENTATION']);
		expect(dockFeeder(turned(1), 14, 'F-3').ok).toBe(true);
		expect(dockFeeder(turned(null), 14, 'F-3').ok).toBe(true);
		expect(dockFeeder(withReel({ quadrant: 3 }), 12, 'F-1').ok).toBe(true);
	});

	test.each([
		[10_100, true],
		[9_900, true],
		[10_101, false],
		[9_899, false],
		[22_000, false]
	])('a piece that measures %d ohms where 10 000 ± 1 %% is wanted', (measured, ok) => {
		const said = dockFeeder(withReel({ measured }), 12, 'F-1');
		expect(said.ok).toBe(ok);
		expect(said.codes).toEqual([ok ? 'OK' : 'VALUE_CHECK']);
	});

	test('floor life that ends within the run is a warning, at its end none', () => {
		expect(dockFeeder(withReel({ floorLifeLeftH: 5.9 }), 12, 'F-1')).toMatchObject({ ok: true, codes: ['FLOOR_LIFE_SHORT', 'OK'] });
		expect(dockFeeder(withReel({ floorLifeLeftH: 6 }), 12, 'F-1').codes).toEqual(['OK']);
		expect(dockFeeder(withReel({ floorLifeLeftH: 0.01 }), 12, 'F-1').codes[0]).toBe('FLOOR_LIFE_SHORT');
	});

	test('all that applies is said, the gravest first, and nothing speaks for it beside', () => {
		const said = dockFeeder(withReel({ blocked: 'recall', pieces: 0, measured: 1, floorLifeLeftH: -1 }), 12, 'F-1');
		expect(said.codes).toEqual(['REEL_BLOCKED', 'FLOOR_LIFE_EXPIRED', 'EMPTY_REEL', 'VALUE_CHECK']);
		expect(said.words).toBe('L-1 is blocked: recall.');
		expect(dockFeeder(withReel({ blocked: 'recall' }), 12, 'F-1').codes).toEqual(['REEL_BLOCKED']);
		expect(dockFeeder(withReel({ blocked: 'recall', part: 'R-22K' }), 12, 'F-1').codes).toEqual(['REEL_BLOCKED', 'WRONG_PART']);
	});

	test('a reel that two feeders claim is refused in both', () => {
		const twice: FeederSetUp = { ...SET_UP, feeders: [...SET_UP.feeders, feeder('F-4', 'L-1')] };
		expect(dockFeeder(twice, 12, 'F-1').codes).toEqual(['REEL_ON_OTHER_FEEDER']);
		expect(dockFeeder(twice, 12, 'F-4').words).toContain('is in F-1');
	});
});

describe('tying', () => {
	test('a reel of the right width goes in; the first thing against it stops it', () => {
		expect(tieReel(SET_UP, 'F-2', 'L-2')).toEqual({ ok: true, codes: ['OK'], words: 'L-2 is in F-2.' });
		expect(tieReel(SET_UP, 'F-9', 'L-2').codes).toEqual(['UNKNOWN_FEEDER']);
		expect(tieReel(SET_UP, 'F-2', 'L-9').codes).toEqual(['UNKNOWN_REEL']);
		expect(tieReel(SET_UP, 'F-2', 'L-1').codes).toEqual(['REEL_ON_OTHER_FEEDER']);
		expect(tieReel({ ...SET_UP, reels: [reel('L-2', 'R-10K', { tapeMm: 12, blocked: 'recall' })] }, 'F-2', 'L-2').codes).toEqual([
			'REEL_BLOCKED'
		]);
		expect(tieReel({ ...SET_UP, reels: [reel('L-2', 'R-10K', { tapeMm: 12 })] }, 'F-2', 'L-2').codes).toEqual(['FEEDER_TYPE']);
	});

	test('the same reel again in the same feeder is no fault', () => {
		expect(tieReel(SET_UP, 'F-1', 'L-1').ok).toBe(true);
	});
});

describe('splicing', () => {
	test('the new reel is matched as the old one was', () => {
		expect(spliceReel(SET_UP, 12, 'F-1', 'L-2')).toMatchObject({ ok: true, codes: ['OK'] });
		expect(spliceReel(SET_UP, 12, 'F-1', 'L-3').codes).toEqual(['REEL_ON_OTHER_FEEDER', 'WRONG_SLOT']);
		expect(spliceReel(SET_UP, 12, 'F-2', 'L-2').codes).toEqual(['FEEDER_NOT_TIED']);
		expect(spliceReel(SET_UP, 12, 'F-1', 'L-9').codes).toEqual(['UNKNOWN_REEL']);
		expect(spliceReel(SET_UP, 99, 'F-1', 'L-2').codes).toEqual(['UNKNOWN_SLOT']);
		const wide = { ...SET_UP, reels: [...SET_UP.reels, reel('L-5', 'R-10K', { tapeMm: 12 })] };
		expect(spliceReel(wide, 12, 'F-1', 'L-5').codes).toEqual(['FEEDER_TYPE']);
	});
});

test('a set-up that cannot be is refused before anything is checked against it', () => {
	expect(() => dockFeeder({ ...SET_UP, slots: 0 }, 1, 'F-1')).toThrow(/slots/);
	expect(() => dockFeeder({ ...SET_UP, runH: NaN }, 12, 'F-1')).toThrow(/runH/);
	expect(() => dockFeeder({ ...SET_UP, needs: [need(61, 'X')] }, 12, 'F-1')).toThrow(/needs.slot/);
	expect(() => dockFeeder({ ...SET_UP, needs: [need(3, 'X'), need(3, 'Y')] }, 12, 'F-1')).toThrow(/each slot once/);
	expect(() => dockFeeder(withReel({ pieces: -1 }), 12, 'F-1')).toThrow(/reels.pieces/);
});

test('whatever is scanned: the codes stand in their order, and only good ones let a feeder run', () => {
	const anyReel = fc.record({
		part: fc.constantFrom('R-10K', 'R-10K-B', 'R-10K-C', 'D-SCH', 'X'),
		tapeMm: fc.constantFrom(8, 12),
		pieces: fc.constantFrom(0, 500),
		blocked: fc.constantFrom(null, 'recall'),
		quadrant: fc.constantFrom(null, 1 as const, 3 as const),
		measured: fc.constantFrom(null, 10_000, 22_000),
		floorLifeLeftH: fc.constantFrom(null, -1, 3, 48)
	});
	fc.assert(
		fc.property(anyReel, fc.integer({ min: 0, max: 62 }), fc.constantFrom('F-1', 'F-2', 'F-9'), (more, slot, id) => {
			const said = dockFeeder(withReel(more), slot, id);
			const order = said.codes.map((code) => SCAN_CODES.indexOf(code));
			expect(order).toEqual([...order].sort((a, b) => a - b));
			expect(said.codes.length).toBeGreaterThan(0);
			expect(said.ok).toBe(said.codes.every((code) => ['OK', 'OK_ALTERNATE', 'FLOOR_LIFE_SHORT'].includes(code)));
			if (said.ok)
				expect([slot, more.blocked, more.pieces]).toEqual([said.codes.includes('OK') && more.part === 'D-SCH' ? 14 : 12, null, 500]);
		})
	);
});

test('the reel that a machine has taken since the scan is named; one that was scanned after it, or is the same, is not', () => {
	const docked = { reel: 'L-1', dockedMs: 100 };
	const took = (reel: string, loadedMs: number) => reelTakenSince(docked, { reel, loadedMs });
	expect([took('L-2', 101), took('L-2', 100), took('L-1', 101)]).toEqual(['L-2', null, null]);
	expect([reelTakenSince(null, { reel: 'L-2', loadedMs: 101 }), reelTakenSince(docked, null)]).toEqual([null, null]);
});

describe('what stands in the slots', () => {
	const check = (code: ScanCode, words: string) => ({ ok: code === 'OK' || code === 'FLOOR_LIFE_SHORT', codes: [code], words });
	const standing = (slot: number, said: StandingSlot['check'], reported: string | null = null): StandingSlot => ({
		slot,
		check: said,
		reported
	});
	const right = standing(3, check('OK', 'right'));
	const short = standing(5, check('FLOOR_LIFE_SHORT', 'It ends in the run.'));
	const wrong = standing(9, check('WRONG_PART', 'Slot 9 wants R-1.'));
	const bare = standing(7, null);

	test('each has its mark', () => {
		expect([right, short, wrong, bare, standing(8, null, 'L-9')].map(slotMark)).toEqual(['right', 'right', 'wrong', 'open', 'open']);
	});

	test('where a second person is to scan it too, one scan leaves it open; what is wrong stays wrong', () => {
		const once = { ...right, waitsForSecond: true };
		expect([once, { ...wrong, waitsForSecond: true }, { ...bare, waitsForSecond: true }].map(slotMark)).toEqual(['open', 'wrong', 'open']);
		expect(judgeDocked([once])).toMatchObject({
			level: 'act',
			statement: 'Slot 3: One person has scanned it: a second one scans slot and feeder too.',
			doNext: ['Let a second person scan slot 3 and its feeder']
		});
		expect(judgeDocked([{ ...bare, waitsForSecond: true }])!.statement).toBe('Slot 7: Nobody has scanned what feeds there.');
	});

	test('nothing is said while each is right for the whole run', () => {
		expect(judgeDocked([])).toBeNull();
		expect(judgeDocked([right])).toBeNull();
	});

	test('a wrong one comes before one that nobody scanned, and that before one whose floor life ends in the run', () => {
		expect(judgeDocked([right, short])).toMatchObject({
			level: 'watch',
			statement: 'Slot 5: It ends in the run.',
			doNext: ['Plan another reel for slot 5']
		});
		expect(judgeDocked([short, bare])).toMatchObject({
			level: 'act',
			statement: 'Slot 7: Nobody has scanned what feeds there.',
			doNext: ['Scan slot 7, its feeder and its reel']
		});
		expect(judgeDocked([bare, short, wrong])).toMatchObject({ level: 'act', statement: 'Slot 9: Slot 9 wants R-1.' });
		expect(judgeDocked([wrong, { ...wrong, slot: 11 }])!.statement).toBe('Slot 9: Slot 9 wants R-1. 1 more.');
		expect(judgeDocked([right, short, bare, wrong])!.because[0]).toMatchObject({ value: 2, limit: '4' });
	});

	test('a reel that the machine has taken and nobody scanned is named', () => {
		expect(judgeDocked([standing(8, null, 'L-9')])!.statement).toBe('Slot 8: The machine reports reel L-9, which nobody has scanned.');
	});
});

test('a feeder that is out of service is refused wherever it is scanned, before anything else about it', () => {
	const setUp = withFeeder({ outOfService: 'gear worn' });
	expect(dockFeeder(setUp, 12, 'F-1')).toMatchObject({ ok: false, codes: ['FEEDER_OUT_OF_SERVICE'] });
	expect(tieReel(setUp, 'F-1', 'L-1').codes).toEqual(['FEEDER_OUT_OF_SERVICE']);
	expect(spliceReel(setUp, 12, 'F-1', 'L-1')).toMatchObject({ ok: false, codes: ['FEEDER_OUT_OF_SERVICE'] });
});
