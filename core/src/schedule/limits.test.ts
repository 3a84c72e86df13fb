import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { panelsLeft } from '../feeders/index.ts';
import { yieldOf } from '../inspection/index.ts';
import {
	handOverLines,
	lineDues,
	lostTime,
	lostTimeLines,
	settleStops,
	spliceDues,
	stopsOfStates,
	type ShiftFacts,
	type StopSpan
} from './index.ts';

const MIN = 60_000;

describe('reels of a line that runs', () => {
	const reel = (pieces: number, perPanel = 10) => ({ station: 'Place 1', slot: 14, partNumber: 'R-10K', pieces, perPanel });
	const due = (pieces: number, panelsToGo: number, taktS = 60) => spliceDues(0, { taktS, panelsToGo, reels: [reel(pieces)] });

	test('one that ends with the run or after it is not due; one that ends a panel before it is', () => {
		const panels = panelsLeft(500, 10);
		expect(due(500, panels)).toEqual([]);
		expect(due(500, panels + 1)).toHaveLength(1);
	});

	test('the splice begins five minutes before the reel ends, at its takt', () => {
		const panels = panelsLeft(500, 10);
		expect(due(500, 999)[0]!.atMs).toBe(panels * MIN - 5 * MIN);
		expect(due(500, 999, 30)[0]!.atMs).toBe(panels * 30_000 - 5 * MIN);
		// Five minutes are more than is left of it: it was due before now.
		expect(due(20, 999)[0]!.atMs).toBeLessThan(0);
	});

	test('a break in which the line stands puts it off by as long', () => {
		const reels = [{ station: 'Place 1', slot: 14, partNumber: 'R-10K', pieces: 500, perPanel: 10 }];
		const at = (breaks: { fromMs: number; toMs: number }[]) => spliceDues(0, { taktS: 60, panelsToGo: 999, reels, breaks })[0]!.atMs;
		const panels = panelsLeft(500, 10);
		expect(at([{ fromMs: 10 * MIN, toMs: 30 * MIN }])).toBe((panels + 20 - 5) * MIN);
		// One that begins when it has run out already does not.
		expect(at([{ fromMs: panels * MIN, toMs: 300 * MIN }])).toBe((panels - 5) * MIN);
	});

	test('it says which slot, and what is left', () => {
		expect(due(500, 999)[0]).toMatchObject({ station: 'Place 1', action: 'Splice slot 14', where: '?slot=14', right: 'feeder.load' });
		expect(due(500, 999)[0]!.reason).toBe(`R-10K: 500 pieces left, 10 a panel: ${panelsLeft(500, 10)} panels`);
	});
});

describe('what a line has to do whatever stands on it', () => {
	const line = { taktS: 30, panelsToGo: 20, shiftEndMs: 100 * MIN, handOverSigned: false };

	test('the next job is prepared when the last panel of this one is through', () => {
		expect(lineDues(7 * MIN, line)[0]).toMatchObject({
			action: 'Prepare the next job',
			atMs: 17 * MIN,
			reason: '20 panels to go at 30.0 s'
		});
		expect(lineDues(0, { ...line, panelsToGo: 0 }).map((d) => d.action)).toEqual(['Hand over']);
		const done = lineDues(0, { ...line, panelsToGo: 0, done: 'J-7' });
		expect(done[0]).toMatchObject({ atMs: 0, action: 'End J-7', where: '/runs', right: 'run.end' });
		expect(done).toHaveLength(2);
		expect(lineDues(0, { ...line, panelsToGo: 1 }).map((d) => d.action)).toEqual(['Prepare the next job', 'Hand over']);
	});

	test('a shift is handed over a quarter of an hour before its end, once', () => {
		expect(lineDues(0, line)[1]).toMatchObject({ action: 'Hand over', atMs: 85 * MIN });
		expect(lineDues(0, { ...line, handOverSigned: true })).toHaveLength(1);
		expect(lineDues(0, { ...line, shiftEndMs: null })).toHaveLength(1);
	});
});

describe('stops of a machine', () => {
	const said = (...states: [number, boolean, string?][]) =>
		stopsOfStates(states.map(([atMs, stopped, reason]) => ({ atMs, stopped, reason: reason ?? null })));

	test('begin with the first word of it, keep the reason given then, and end with the next other state', () => {
		expect(said([0, false], [5, true, 'jam'], [7, true, 'cover open'], [9, false], [11, false])).toEqual([
			{ fromMs: 5, toMs: 9, machineReason: 'jam' }
		]);
		expect(said([5, true])).toEqual([{ fromMs: 5, toMs: null, machineReason: null }]);
		expect(said([5, false])).toEqual([]);
		expect(said([5, true], [6, false], [6, true], [8, false]).map((s) => [s.fromMs, s.toMs])).toEqual([
			[5, 6],
			[6, 8]
		]);
	});

	test('heard late they change what is on record and nothing else', () => {
		const record = [{ id: 1, fromMs: 5, toMs: null, machineReason: 'jam' }];
		expect(settleStops(record, [{ fromMs: 5, toMs: null, machineReason: 'jam' }])).toEqual({ begun: [], changed: [], gone: [] });
		// It had ended: the same stop, with its end.
		expect(settleStops(record, [{ fromMs: 5, toMs: 9, machineReason: 'jam' }]).changed).toEqual([
			{ was: record[0], now: { fromMs: 5, toMs: 9, machineReason: 'jam' } }
		]);
		// It began earlier than was thought: still the same.
		expect(settleStops(record, [{ fromMs: 3, toMs: 9, machineReason: 'jam' }]).changed).toHaveLength(1);
		// It was two: one keeps the record, the other is new.
		const two = settleStops(record, [
			{ fromMs: 5, toMs: 6, machineReason: 'jam' },
			{ fromMs: 8, toMs: null, machineReason: 'jam' }
		]);
		expect([two.begun.map((s) => s.fromMs), two.changed.map((c) => c.now.toMs), two.gone]).toEqual([[8], [6], []]);
		// It never was: what touches it only at its end is another stop.
		expect(settleStops([{ id: 1, fromMs: 5, toMs: 8, machineReason: null }], [{ fromMs: 8, toMs: 9, machineReason: null }])).toMatchObject({
			begun: [{ fromMs: 8 }],
			changed: [],
			gone: [{ id: 1 }]
		});
	});

	test('what results is always what was said, whatever was on record', () => {
		const spans = fc
			.uniqueArray(fc.integer({ min: 0, max: 60 }), { maxLength: 12 })
			.map((times) => times.sort((a, b) => a - b))
			.map((times): StopSpan[] =>
				times.flatMap((fromMs, i) => (i % 2 ? [] : [{ fromMs, toMs: times[i + 1] ?? null, machineReason: null }]))
			);
		fc.assert(
			fc.property(spans, spans, (before, said) => {
				const { begun, changed, gone } = settleStops(before, said);
				const kept = before.filter((was) => !gone.includes(was)).map((was) => changed.find((c) => c.was === was)?.now ?? was);
				const after = [...kept, ...begun].sort((a, b) => a.fromMs - b.fromMs);
				expect(after).toEqual(said);
				expect(kept.length + gone.length).toBe(before.length);
			})
		);
	});
});

describe('lost time', () => {
	const stop = (fromMin: number, toMin: number | null, station = 'Print', reason: 'jam' | 'other' | null = 'jam') => ({
		station,
		fromMs: fromMin * MIN,
		toMs: toMin === null ? null : toMin * MIN,
		machineReason: null,
		reason
	});
	const lost = (...stops: ReturnType<typeof stop>[]) => lostTime(stops, 0, 60 * MIN);

	test('five minutes are a stop, a moment less is an assist', () => {
		expect(lost(stop(0, 5))).toMatchObject({ assists: 0, major: 1 });
		expect(lost(stop(0, 4.999))).toMatchObject({ assists: 1, major: 0 });
		// By its whole length, though only a minute of it lies in the shift.
		expect(lostTime([stop(-10, 1)], 0, 60 * MIN)).toMatchObject({ major: 1, totalMs: MIN });
	});

	test('what overlaps is counted once, to the stop that began first', () => {
		const both = lost(stop(0, 10), stop(5, 12, 'Oven'));
		expect(both.totalMs).toBe(12 * MIN);
		expect(both.rows.map((r) => [r.station, r.ms / MIN])).toEqual([
			['Print', 10],
			['Oven', 2]
		]);
		expect(lost(stop(0, 10), stop(2, 4, 'Oven')).rows.map((r) => r.ms / MIN)).toEqual([10, 0]);
	});

	test('one that lasts counts up to now, and what lies outside not at all', () => {
		expect(lost(stop(50, null))).toMatchObject({ totalMs: 10 * MIN, running: 1 });
		expect(lost(stop(-9, 0), stop(60, 70))).toMatchObject({ totalMs: 0, rows: [], unexplainedShare: 0 });
	});

	test('more than a tenth unexplained is asked about', () => {
		const lines = (minutes: number) => lostTimeLines(lost(stop(0, 20 - minutes), stop(30, 30 + minutes, 'Oven', null)));
		expect(lines(2).join()).not.toContain('not explained');
		expect(lines(2.2).join()).toContain('11 % of it is not explained');
		expect(lost(stop(0, 10, 'Print', 'other')).unexplainedShare).toBe(1);
		expect(lostTimeLines(lost())).toEqual(['No machine stopped']);
		expect(lostTimeLines(lost(stop(0, 0.5)))[0]).toBe('under a minute stood: 1 short stop, 0 of five minutes or more');
		expect(lostTimeLines(lost(stop(0, 1), stop(2, 4), stop(50, null)))[0]).toBe(
			'13 min stood: 2 short stops, 1 of five minutes or more, 1 still standing'
		);
	});
});

describe('the sheet of a hand-over', () => {
	const facts: ShiftFacts = {
		panelsPrinted: 12,
		panelsFinished: 9,
		yields: [],
		fails: [],
		stands: [],
		running: [],
		lost: lostTime([], 0, 1),
		open: [],
		changes: []
	};
	const block = (heading: string, more: Partial<ShiftFacts>) =>
		handOverLines({ ...facts, ...more }).find((b) => b.heading === heading)!.lines;

	test('says the sentence of each station that is not good, with its act', () => {
		expect(
			block('Stations', {
				stands: [
					{ station: 'Oven', level: 'act', sentence: 'The belt is slow.', act: 'Set the belt' },
					{ station: 'Print', level: 'noData', sentence: 'Nothing printed yet.', act: null }
				]
			})
		).toEqual(['Oven: Act. The belt is slow. Set the belt.', 'Print: No data. Nothing printed yet.']);
		expect(block('Stations', {})).toEqual(['Every station is in order']);
	});

	test('gives counts up to 29 units and a percentage from 30', () => {
		const of = (passed: number, units: number) => block('Results', { yields: [{ step: 'Optical', result: yieldOf(passed, units) }] })[1];
		expect(of(29, 29)).toBe('Optical: 29 of 29 passed at first');
		expect(of(30, 30)).toBe('Optical: 100.0 % passed at first (30 of 30; 88.6 to 100.0 %)');
		expect(of(0, 0)).toBe('Optical: no data');
		expect(block('Results', {})).toEqual(['12 panels printed, 9 finished']);
	});

	test('leaves no block empty', () => {
		for (const { heading, lines } of handOverLines(facts)) expect(lines.length, heading).toBeGreaterThan(0);
		expect(block('Failed most', { fails: [{ step: 'Optical', what: 'R5 tombstone', count: 1 }] })).toEqual([
			'R5 tombstone, once at Optical'
		]);
		expect(block('Running', { running: [{ job: 'J-1', board: 'Tracker', done: 3, quantity: 8 }] })).toEqual([
			'J-1, Tracker: 3 of 8 panels done'
		]);
	});
});
