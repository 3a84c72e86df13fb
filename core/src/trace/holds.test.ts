import { describe, expect, test } from 'vitest';
import { jarQuarantine, judgeRejects, pasteReject } from './index.ts';

describe('what is held', () => {
	test('a rejected panel stands before the placers and the oven until quality lifts it; what failed is counted by kind', () => {
		const worst = [{ code: 'bridge' }, { code: 'insufficient' }, { code: 'insufficient' }];
		expect(pasteReject('J-7-0031', 2, { fails: 3, pads: 1760, worst }, 5000)).toEqual({
			kind: 'panel',
			subject: 'J-7-0031',
			code: 'paste_reject',
			why: 'Paste check rejected print 2: 3 of 1760 pads fail (2 insufficient, 1 bridge).',
			sinceMs: 5000,
			obeys: ['place', 'oven'],
			lifts: 'hold.lift'
		});
	});

	test('kinds are only counted where every failing pad is known', () => {
		expect(pasteReject('P', 1, { fails: 90, pads: 1760, worst: [{ code: 'bridge' }] }, 0).why).toBe(
			'Paste check rejected print 1: 90 of 1760 pads fail.'
		);
		expect(pasteReject('P', 1, { fails: 1, pads: 1, worst: [] }, 0).why).toBe('Paste check rejected print 1: 1 of 1 pad fails.');
	});

	test('a jar in quarantine stands before the printer until it was reviewed', () => {
		expect(jarQuarantine('J-0027', ['opened before it was warm', 'past its use-by date'], 7)).toMatchObject({
			kind: 'jar',
			why: 'Opened before it was warm. Past its use-by date.',
			sinceMs: 7,
			obeys: ['print'],
			lifts: 'jar.review'
		});
	});

	test('the printer is asked for the first of them, and all are named', () => {
		expect(judgeRejects([])).toBeNull();
		expect(judgeRejects([{ subject: 'P-1', why: 'Rejected.' }])).toMatchObject({
			level: 'act',
			statement: 'P-1 is held before the placers. Rejected.',
			doNext: ['Take P-1 off and wash it, or have an engineer’s leave']
		});
		expect(
			judgeRejects([
				{ subject: 'P-1', why: 'A.' },
				{ subject: 'P-2', why: 'B.' }
			])!.statement
		).toBe('2 panels are held before the placers, P-1 first.');
	});
});
