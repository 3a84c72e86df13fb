import { describe, expect, test } from 'vitest';
import { dateOrderOf, lookAtVisits, visitsOf } from './index.ts';

const FILE = [
	'Serial;Position;Result;Start time;Finished;Designator;Defect;Reading',
	'J-1-0001;1;OK;27/11/2026 14:04:00;27/11/2026 14:05:10;;;',
	'J-1-0001;2;NG;27/11/2026 14:04:00;27/11/2026 14:05:10;R7;missing;"0,5"',
	'J-1-0002;1;maybe;03/12/2026 14:04:00;03/12/2026 14:06:00;;;'
].join('\n');

describe('a file is looked at before it is read', () => {
	test('columns by their titles, words of the result, and which of day and month is first', () => {
		const look = lookAtVisits(FILE);
		expect(look.columns).toEqual({
			panel: 'Serial',
			circuit: 'Position',
			result: 'Result',
			startedAt: 'Start time',
			at: 'Finished',
			refDes: 'Designator',
			code: 'Defect',
			measured: 'Reading'
		});
		expect(look.words).toEqual([
			{ word: 'OK', means: 'pass' },
			{ word: 'NG', means: 'fail' },
			{ word: 'maybe', means: null }
		]);
		expect(look.dateOrder).toBe('day-first');
		expect(look.rows).toHaveLength(3);
	});

	test('columns that somebody chose stand; a title belongs to one column', () => {
		const look = lookAtVisits('Board,Result time,State\nJ-1,2026-11-27 10:00,pass\n', { result: 'State' });
		expect(look.columns).toEqual({ result: 'State' });
		expect(look.words).toEqual([{ word: 'pass', means: 'pass' }]);
		expect(lookAtVisits('Result date,Serial\n').columns).toEqual({ panel: 'Serial', result: 'Result date' });
		expect(lookAtVisits('').titles.filter(Boolean)).toEqual([]);
	});

	test('a quote that stands open is said, not read over', () => {
		const text = 'Serial,Result,Finished\nJ-1,"OK,2026-11-27 10:00\n';
		expect(lookAtVisits(text)).toMatchObject({ titles: [], problem: expect.stringMatching(/quote/i) });
		const { visits, refused } = visitsOf(text, {
			source: 'a',
			type: 'b',
			columns: { panel: 'Serial', result: 'Result', at: 'Finished' },
			pass: ['OK'],
			fail: [],
			timeZone: 'UTC'
		});
		expect([visits.length, refused.length]).toEqual([0, 1]);
	});

	test.each([
		[['03/04/2026 10:00'], 'ask'],
		[['12/12/2026 10:00'], 'ask'],
		[['13/12/2026 10:00'], 'day-first'],
		[['12/13/2026 10:00'], 'month-first'],
		[['13/12/2026', '12/13/2026'], 'ask'],
		[['03.04.2026 10:00', '2026-04-03 10:00'], null],
		[[], null]
	] as const)('dates %j: %s', (cells, order) => expect(dateOrderOf(cells)).toBe(order));
});

test('what was looked at is read with what was chosen', () => {
	const { columns, dateOrder } = lookAtVisits(FILE);
	const { visits, refused } = visitsOf(FILE, {
		source: 'Line 1/Bench',
		type: 'bench_inspection',
		columns: columns as never,
		pass: ['OK'],
		fail: ['NG'],
		timeZone: 'UTC',
		dateOrder: dateOrder as 'day-first'
	});
	expect(visits.map((v) => [v.panel, v.circuit, v.result, v.startedAt, v.at])).toEqual([
		['J-1-0001', 0, 'pass', '2026-11-27T14:04:00.000Z', '2026-11-27T14:05:10.000Z'],
		['J-1-0001', 1, 'fail', '2026-11-27T14:04:00.000Z', '2026-11-27T14:05:10.000Z']
	]);
	expect(visits[1]!.calls).toEqual([{ refDes: 'R7', pin: null, code: 'missing', measured: '0,5' }]);
	expect(refused).toEqual([{ line: 4, reason: 'result “maybe” is neither one of OK nor of NG' }]);
});
