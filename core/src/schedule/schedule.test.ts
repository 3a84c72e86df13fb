import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { yieldOf } from '../inspection/index.ts';
import { handOverLines } from './hand-over.ts';
import { judgeHandOver, judgeRun, runEndMs } from './judge.ts';
import { nextUp } from './next-up.ts';
import { lostTime, lostTimeLines, type Stop } from './stops.ts';
import { instantOf, localParts } from '../units/index.ts';
import { neighbourShift, shiftAt, shiftOn } from './shifts.ts';

const PATTERN = [
	{ name: 'Early', from: '06:00', to: '14:00' },
	{ name: 'Late', from: '14:00', to: '22:00' },
	{ name: 'Night', from: '22:00', to: '06:00' }
];
const ZONE = 'Europe/Berlin';

test('a night belongs to the day it starts', () => {
	const shift = shiftAt(instantOf('2026-06-10', '02:30', ZONE), PATTERN, ZONE)!;
	expect([shift.name, shift.date]).toEqual(['Night', '2026-06-09']);
	expect(neighbourShift(shift, PATTERN, ZONE, 1)).toMatchObject({ name: 'Early', date: '2026-06-10' });
	expect(neighbourShift(shift, PATTERN, ZONE, -1)).toMatchObject({ name: 'Late', date: '2026-06-09' });
});

test('nights of a clock change have seven and nine hours', () => {
	const hours = (date: string) => {
		const { startMs, endMs } = shiftOn(date, PATTERN[2]!, ZONE);
		return (endMs - startMs) / 3_600_000;
	};
	expect([hours('2026-03-28'), hours('2026-10-24'), hours('2026-06-01')]).toEqual([7, 9, 8]);
});

test('an instant and its wall-clock time agree', () => {
	expect(localParts(instantOf('2026-11-25', '13:42', ZONE), ZONE)).toEqual({ date: '2026-11-25', time: '13:42', minutes: 822 });
	expect(() => instantOf('yesterday', '13:42', ZONE)).toThrow('date: expected a date');
});

test('next up: ordered by the latest safe start, reels that outlast the run are not due', () => {
	const due = nextUp(0, {
		taktS: 60,
		panelsToGo: 50,
		reels: [
			{ station: 'Place 1', slot: 14, partNumber: 'A', pieces: 201, perPanel: 10 },
			{ station: 'Place 2', slot: 3, partNumber: 'B', pieces: 5000, perPanel: 10 }
		],
		shiftEndMs: 40 * 60_000,
		handOverSigned: false
	});
	// 20 panels at 0.5 % loss are 19 full ones: 20 panels x 60 s less 5 min.
	expect(due.map((entry) => [entry.action, entry.atMs / 60_000])).toEqual([
		['Splice slot 14', 14],
		['Hand over', 25],
		['Prepare the next job', 50]
	]);
	expect(nextUp(0, { taktS: 60, panelsToGo: 0, reels: [], shiftEndMs: 1, handOverSigned: true })).toEqual([]);
});

test('a hand-over says counts below thirty units and a percentage with its interval above', () => {
	const lines = handOverLines({
		panelsPrinted: 40,
		panelsFinished: 38,
		yields: [
			{ step: 'Optical', result: yieldOf(97, 100) },
			{ step: 'In-circuit', result: yieldOf(19, 20) },
			{ step: 'Paste check', result: yieldOf(0, 0) }
		],
		fails: [{ step: 'Optical', what: 'C46 tombstone', count: 2 }],
		stands: [{ station: 'Paste check', level: 'act', sentence: 'Front and rear differ.', act: 'Swap the blades' }],
		running: [],
		lost: lostTime([], 0, 1),
		open: [],
		changes: []
	});
	const results = lines.find((block) => block.heading === 'Results')!.lines;
	expect(results[1]).toBe('Optical: 97.0 % passed at first (97 of 100; 91.5 to 99.0 %)');
	expect(results[2]).toBe('In-circuit: 19 of 20 passed at first');
	expect(results[3]).toBe('Paste check: no data');
	expect(lines.find((block) => block.heading === 'Failed most')!.lines).toEqual(['C46 tombstone, 2 times at Optical']);
});

test('a run: idle is no data, a stopped station speaks first, the end follows the takt', () => {
	expect(judgeRun('Line 1', null, []).level).toBe('noData');
	expect(judgeRun('Line 1', { number: 'J-1', finished: 3, panels: 10 }, [])).toMatchObject({
		level: 'good',
		statement: 'J-1 is running, 3 of 10 panels finished.'
	});
	// What is built is not running, on both sides of the last panel.
	expect(judgeRun('Line 1', { number: 'J-1', finished: 9, panels: 10 }, []).level).toBe('good');
	expect(judgeRun('Line 1', { number: 'J-1', finished: 10, panels: 10 }, [])).toMatchObject({
		level: 'act',
		statement: 'J-1 is done: 10 of 10 panels finished.',
		doNext: ['End the run, and start the next job']
	});
	// Nothing runs before its set-up is proven, whatever stands still.
	const settingUp = { number: 'J-1', finished: 0, panels: 10, settingUp: true };
	expect(judgeRun('Line 1', settingUp, ['Oven'])).toMatchObject({
		level: 'act',
		statement: 'J-1 is being set up; nothing is printed yet.',
		doNext: ['Prove its set-up, then start']
	});
	const held = judgeRun('Line 1', { number: 'J-1', finished: 3, panels: 10 }, ['Place 1', 'Oven']);
	expect(held).toMatchObject({ level: 'stopped', doNext: ['Clear Place 1', 'Clear Oven'] });
	expect(runEndMs(1000, 7, 30)).toBe(211_000);
	expect(runEndMs(1000, -2, 30)).toBe(1000);
});

test('a hand-over is good with two signatures and watched with fewer', () => {
	expect(judgeHandOver('Early', true, null, null).statement).toBe('Early shift is running; nobody has signed.');
	expect(judgeHandOver('Early', false, null, null).statement).toBe('Early shift was never handed over; nobody has signed.');
	expect(judgeHandOver('Early', true, 'A. Tarn', null).statement).toBe('A. Tarn has signed; the person taking over has not.');
	expect(judgeHandOver('Early', true, 'A. Tarn', 'F. Larch')).toMatchObject({
		level: 'good',
		statement: 'Early shift handed over by A. Tarn to F. Larch.'
	});
});

describe('lost time', () => {
	const MIN = 60_000;
	const stop = (station: string, from: number, to: number | null, reason: Stop['reason'] = null): Stop => ({
		station,
		fromMs: from * MIN,
		toMs: to === null ? null : to * MIN,
		machineReason: null,
		reason
	});

	test('overlaps count once and go to the stop that began first', () => {
		const lost = lostTime([stop('Place 1', 10, 20, 'pick'), stop('Oven', 15, 30, 'repair')], 0, 60 * MIN);
		expect(lost.totalMs).toBe(20 * MIN);
		expect(lost.rows.map((row) => [row.station, row.ms / MIN])).toEqual([
			['Place 1', 10],
			['Oven', 10]
		]);
	});

	test('stops are clipped to the shift; whether short or long goes by the wall', () => {
		const lost = lostTime([stop('Print', -10, 2, 'paste'), stop('Print', 20, 23, 'paste'), stop('Print', 55, null)], 0, 60 * MIN);
		expect(lost).toMatchObject({ totalMs: 10 * MIN, major: 2, assists: 1, running: 1 });
		expect(lost.unexplainedShare).toBeCloseTo(0.5, 9);
	});

	test('the parts add up to the whole, whatever the stops (property)', () => {
		const some = fc.array(
			fc.record({ from: fc.integer({ min: -30, max: 500 }), long: fc.integer({ min: 0, max: 90 }), m: fc.constantFrom('A', 'B', 'C') })
		);
		fc.assert(
			fc.property(some, (list) => {
				const lost = lostTime(
					list.map(({ from, long, m }) => stop(m, from, from + long)),
					0,
					480 * MIN
				);
				expect(lost.rows.reduce((sum, row) => sum + row.ms, 0)).toBe(lost.totalMs);
				expect(lost.totalMs).toBeLessThanOrEqual(480 * MIN);
			})
		);
	});

	test('the sentences name machine, reason and minutes, and nag where a tenth is not explained', () => {
		const lines = lostTimeLines(lostTime([stop('Place 1', 10, 22, 'pick'), stop('Oven', 40, 42)], 0, 60 * MIN));
		expect(lines).toEqual([
			'14 min stood: 1 short stop, 1 of five minutes or more',
			'Place 1, pick or feeder: 12 min, 1 stop',
			'Oven, no reason given yet: 2 min, 1 stop',
			'14 % of it is not explained: ask those who were there before they leave'
		]);
		expect(lostTimeLines(lostTime([], 0, 1))).toEqual(['No machine stopped']);
	});
});
