import { expect, test } from 'vitest';
import { judgeDeposit, judgePanelPaste, panelLevel } from './deposit.ts';
import { countFails, firstPass, judgeYield, yieldOf } from './yield.ts';

/** A pad as wide as it is long. */
const even = (mm: number) => ({ xMm: mm, yMm: mm });
const RIGHT = { volumePct: 100, heightPct: 100, areaPct: 100, offsetXUm: 0, offsetYUm: 0 };

test('a deposit exactly on a limit passes, beyond it fails; missing hides what follows from it', () => {
	expect(judgeDeposit('chip', even(0.5), { ...RIGHT, volumePct: 50 })).toEqual({ codes: [], warn: true });
	expect(judgeDeposit('chip', even(0.5), { ...RIGHT, volumePct: 49.9 }).codes).toEqual(['insufficient']);
	expect(judgeDeposit('chip', even(0.5), { ...RIGHT, volumePct: 5, heightPct: 5, areaPct: 30 }).codes).toEqual(['missing']);
	expect(judgeDeposit('fineBallGrid', even(0.25), { ...RIGHT, offsetYUm: -63 }).codes).toEqual(['offset']);
	expect(judgeDeposit('fineBallGrid', even(0.25), { ...RIGHT, offsetYUm: -62 }).codes).toEqual([]);
	expect(judgeDeposit('fineLead', even(0.25), { ...RIGHT, volumePct: 150, areaPct: 141 }).codes).toEqual(['excess', 'area']);
});

test('a panel: one fail rejects, warnings over one percent ask for a look', () => {
	expect([judgePanelPaste(1000, 1, 0), judgePanelPaste(1000, 0, 11), judgePanelPaste(1000, 0, 10)]).toEqual(['reject', 'review', 'pass']);
});

test('the first attempt is the earliest by start time, whatever the order of the list', () => {
	const result = firstPass([
		{ unit: 'A', startedAt: 20, passed: true },
		{ unit: 'A', startedAt: 10, passed: false },
		{ unit: 'B', startedAt: 5, passed: true }
	]);
	expect(result).toMatchObject({ passed: 1, units: 2 });
});

test('a yield is judged by its interval: chance is not an alarm, no units is no data', () => {
	expect(judgeYield('Optical', yieldOf(95, 100), 0.96, null).level).toBe('watch');
	expect(judgeYield('Optical', yieldOf(850, 1000), 0.96, 'C46 tombstone')).toMatchObject({
		level: 'act',
		doNext: ['Look at C46 tombstone first: it fails most']
	});
	expect(judgeYield('Optical', yieldOf(29, 29), 0.96, null).level).toBe('noData');
	expect(judgeYield('Optical', yieldOf(0, 0), 0.96, null).level).toBe('noData');
	expect(judgeYield('Optical', yieldOf(99, 100), 0.96, null).level).toBe('good');
});

test('fails are counted by place and by kind', () => {
	const { byPlace, byCode } = countFails([
		{ refDes: 'C1', code: 'tombstone' },
		{ refDes: 'C1', code: 'tombstone' },
		{ refDes: 'R2', code: 'tombstone' }
	]);
	expect(byPlace[0]).toEqual({ key: 'C1 tombstone', count: 2 });
	expect(byCode).toEqual([{ key: 'tombstone', count: 3 }]);
});

test('a panel: anything against it outranks being finished, nothing seen is no data', () => {
	expect(panelLevel({ paste: null, failedVisits: 0, finished: false })).toBe('noData');
	expect(panelLevel({ paste: 'pass', failedVisits: 0, finished: false })).toBe('watch');
	expect(panelLevel({ paste: 'review', failedVisits: 0, finished: true })).toBe('good');
	expect(panelLevel({ paste: 'reject', failedVisits: 0, finished: true })).toBe('act');
	expect(panelLevel({ paste: 'pass', failedVisits: 1, finished: true })).toBe('act');
});
