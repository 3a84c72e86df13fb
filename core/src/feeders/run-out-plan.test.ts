import { describe, expect, test } from 'vitest';
import { judgeRound, lossOf, ROUND_RULES, slotEnds, spliceRound, type FedSlot, type RoundStop } from './run-out-plan.ts';

const NOW = Date.UTC(2026, 10, 2, 10, 30);
const CLOCK = { nowMs: NOW, taktS: 40, panelsToGo: 500, breaks: [] };
const slot = (more: Partial<FedSlot> = {}): FedSlot => ({
	machine: 'Place 1',
	slot: 14,
	partNumber: 'R-10K',
	pieces: 1500,
	perPanel: 16,
	picks: 0,
	lost: 0,
	xM: 0,
	...more
});

describe('loss of picks', () => {
	test('what is usual, until a slot has shown its own', () => {
		expect(lossOf(0, 0).share).toBeCloseTo(0.005, 12);
		expect(lossOf(2000, 60).share).toBeCloseTo(0.0175, 12);
		expect(lossOf(200_000, 4000).share).toBeCloseTo(0.01985, 5);
	});

	test('the range holds the share, and narrows with what was seen', () => {
		const [few, many] = [lossOf(1000, 10), lossOf(100_000, 1000)];
		for (const { low, share, high } of [few, many]) {
			expect(low).toBeLessThan(share);
			expect(high).toBeGreaterThan(share);
		}
		expect(many.high - many.low).toBeLessThan((few.high - few.low) / 3);
		expect(lossOf(0, 0).high - 0.005).toBeCloseTo(1.96 * Math.sqrt((0.005 * 0.995) / 2001), 9);
		expect(lossOf(10, 10).high).toBeLessThanOrEqual(0.5);
	});

	test('more lost than picked is refused', () => {
		expect(() => lossOf(10, 11)).toThrow(/lost/);
	});
});

describe('ends of slots', () => {
	test('1500 pieces at 16 a panel and 2 % loss feed 91 panels; from 10:30 at 40 s over the break of 11:30 to 12:00 they end at 12:00:40', () => {
		// Enough picks that what is usual no longer weighs.
		const breaks = [{ fromMs: NOW + 3_600_000, toMs: NOW + 5_400_000 }];
		const [end] = slotEnds([slot({ picks: 1e8, lost: 2e6 })], { ...CLOCK, breaks });
		expect(end!.panels).toBe(91);
		expect(end!.endMs - NOW).toBe(90 * 60_000 + 40_000);
	});

	test('what outlasts the run is left out: one panel decides', () => {
		const { panels } = slotEnds([slot()], CLOCK)[0]!;
		expect(slotEnds([slot()], { ...CLOCK, panelsToGo: panels })).toEqual([]);
		expect(slotEnds([slot()], { ...CLOCK, panelsToGo: panels + 1 })).toHaveLength(1);
	});

	test('the first one first; earliest and latest lie around', () => {
		const ends = slotEnds([slot({ slot: 3, pieces: 3000 }), slot()], CLOCK);
		expect(ends.map((e) => e.slot)).toEqual([14, 3]);
		for (const { earliestMs, endMs, latestMs } of ends) {
			expect(earliestMs).toBeLessThanOrEqual(endMs);
			expect(latestMs).toBeGreaterThanOrEqual(endMs);
		}
	});
});

describe('a round of splices', () => {
	/** Ends after so many seconds of work, with no doubt about its loss. */
	const ending = (name: number, s: number, xM: number) =>
		slot({ slot: name, perPanel: 1, pieces: Math.ceil(s / 0.98 + 1e-9), picks: 1e9, lost: 2e7, xM });
	const tight = { ...CLOCK, taktS: 1, panelsToGo: 1e6 };
	const rules = { ...ROUND_RULES, tailS: 1e6, walkMPerS: 1 };

	test('in the order of their ends the line would stand 8 s; there and back it need not', () => {
		const ends = slotEnds([ending(1, 100, 0), ending(2, 193, 12), ending(3, 195, 1)], tight);
		expect(ends.map((e) => e.panels)).toEqual([100, 193, 195]);
		const round = spliceRound(ends, tight, rules);
		expect(round.stops.map((s) => s.slot)).toEqual([1, 3, 2]);
		expect(round).toMatchObject({ stopS: 0, proven: true });
		expect(round.stops[0]!.finishMs - NOW).toBe(60_000);
	});

	test('what cannot be done says how long the line stands, and where', () => {
		const ends = slotEnds([ending(1, 50, 0), ending(2, 50, 0)], tight);
		const { stopS, stops } = spliceRound(ends, tight, rules);
		expect(stopS).toBeGreaterThan(68);
		expect(stopS).toBeLessThan(72);
		expect(stops[1]!.spareS).toBeCloseTo(-stopS, 9);
	});

	test('a tail that is too long is waited for; nobody walks in a break', () => {
		const clock = { ...tight, breaks: [{ fromMs: NOW + 20_000, toMs: NOW + 620_000 }] };
		const ends = slotEnds([ending(1, 1000, 0)], clock);
		const [stop] = spliceRound(ends, clock, { ...rules, tailS: 900 }).stops;
		// Released after about 100 s of work: 20 before the break, 80 after it.
		expect(Math.round((stop!.startMs - NOW) / 1000 / 10)).toBe(70);
	});

	test('what ends later than is looked ahead is for another round', () => {
		const ends = slotEnds([ending(1, 3500, 0), ending(2, 3700, 0)], tight);
		expect(spliceRound(ends, tight, { ...rules, aheadH: 1 }).stops.map((s) => s.slot)).toEqual([1]);
		expect(() => spliceRound(ends, tight, { ...rules, aheadH: 0 })).toThrow(/aheadH/);
	});
});

describe('what a round comes to', () => {
	const stop = (more: Partial<RoundStop> = {}): RoundStop => ({
		machine: 'Place 1',
		slot: 14,
		partNumber: 'R-10K',
		leaveMs: NOW,
		startMs: NOW,
		finishMs: NOW + 60_000,
		spareS: 20,
		...more
	});

	test('nothing ahead, all in time, or a stop with where it is: 5 s decide', () => {
		expect(judgeRound({ stops: [], stopS: 0, proven: true }).statement).toBe('No reel ends in the time that is looked ahead.');
		expect(judgeRound({ stops: [stop()], stopS: 0, proven: true })).toMatchObject({
			level: 'good',
			statement: 'One splice ahead, all in time in this order.'
		});
		const late = [stop(), stop({ slot: 3, spareS: -14 })];
		expect(judgeRound({ stops: late, stopS: 14, proven: true })).toMatchObject({
			level: 'watch',
			statement: 'One technician cannot splice all in time: the line will stand 14 s for Place 1, slot 3.'
		});
		expect(judgeRound({ stops: late, stopS: 5, proven: true }).level).toBe('watch');
		expect(judgeRound({ stops: late, stopS: 4.9, proven: true }).level).toBe('good');
	});
});
