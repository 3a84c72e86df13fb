import { describe, expect, test } from 'vitest';
import { CARE_RULES, careIsDue, judgeCare, judgeNozzlesOut, picksSinceCare, type Wearing } from './index.ts';

const feeder = (picks: number, caredPicks = 0): Wearing => ({ kind: 'feeder', name: 'F-1', picks, caredPicks });
const nozzle = (picks: number, caredPicks = 0): Wearing => ({ kind: 'nozzle', name: 'N2', picks, caredPicks });

describe('care', () => {
	test('is due from the plant’s number of picks on, counted from the last care', () => {
		expect(CARE_RULES).toEqual({ feederPicks: 500_000, nozzlePicks: 100_000 });
		expect([careIsDue(feeder(499_999)), careIsDue(feeder(500_000))]).toEqual([false, true]);
		expect([careIsDue(nozzle(99_999)), careIsDue(nozzle(100_000))]).toEqual([false, true]);
		expect([careIsDue(nozzle(250_000, 150_001)), careIsDue(nozzle(250_000, 150_000))]).toEqual([false, true]);
		expect([
			careIsDue(nozzle(60, 0), { feederPicks: 50, nozzlePicks: 61 }),
			careIsDue(feeder(60), { feederPicks: 50, nozzlePicks: 61 })
		]).toEqual([false, true]);
	});

	test('a counter that was set back counts nothing since', () => {
		expect(picksSinceCare({ picks: 5, caredPicks: 9 })).toBe(0);
	});

	test('the longest overdue is named first, by its own limit; nothing due says nothing', () => {
		expect(judgeCare([feeder(10), nozzle(10)])).toBeNull();
		expect(judgeCare([feeder(600_000)])).toMatchObject({
			level: 'watch',
			statement: 'Feeder F-1 is due for care: 600000 picks since the last.',
			doNext: ['Clean and check Feeder F-1']
		});
		// 600 000 of 500 000 is 1.2 times; 130 000 of 100 000 is 1.3 times.
		expect(judgeCare([feeder(600_000), nozzle(130_000)])).toMatchObject({
			statement: '2 are due for care, Nozzle N2 first: 130000 picks since the last.',
			doNext: ['Clean Nozzle N2, look at its tip']
		});
	});
});

test('a nozzle out of service with which the program places asks for an act, and says why', () => {
	expect(judgeNozzlesOut([])).toBeNull();
	expect(judgeNozzlesOut([{ name: 'N2', why: 'tip bent' }])).toMatchObject({
		level: 'act',
		statement: 'The program places with nozzle N2, out of service: tip bent.'
	});
	const two = judgeNozzlesOut([
		{ name: 'N2', why: 'tip bent' },
		{ name: 'N4', why: 'leaks' }
	])!;
	expect(two.statement).toBe('The program places with nozzle N2, out of service: tip bent; and with 1 more.');
	expect(two.because.map((b) => [b.quantity, b.source])).toEqual([
		['Nozzle N2', 'tip bent'],
		['Nozzle N4', 'leaks']
	]);
});

describe('faults that people saw', () => {
	const of = (name: string, picks: number, faults: number) => ({ kind: 'feeder' as const, name, picks, caredPicks: 0, faults });

	test('three since it was cared for make care due, two do not', () => {
		expect(careIsDue(of('F-1', 10, 2))).toBe(false);
		expect(careIsDue(of('F-1', 10, 3))).toBe(true);
		expect(judgeCare([of('F-1', 10, 2)])).toBeNull();
		expect(judgeCare([of('F-1', 10, 3)])!.statement).toBe('Feeder F-1 is due for care: 3 faults since the last.');
	});

	test('what is farther beyond its limit is named first, by picks or by faults', () => {
		const worn = of('F-2', 1_000_000, 0);
		expect(judgeCare([of('F-1', 10, 3), worn])!.statement).toBe('2 are due for care, Feeder F-2 first: 1000000 picks since the last.');
		expect(judgeCare([of('F-1', 10, 7), worn])!.statement).toBe('2 are due for care, Feeder F-1 first: 7 faults since the last.');
	});
});
