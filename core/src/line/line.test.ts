import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { LEVELS, noData, type Level, type Verdict } from '../judgement/index.ts';
import type { Due } from '../schedule/index.ts';
import { hoursOfShift, judgeOwnPace, judgePace, lineStands, stationStands, type Part } from './index.ts';

const verdict = (level: Level, statement: string, doNext: string[] = []): Verdict => ({ level, statement, because: [], doNext });
const part = (level: Level, statement: string, doNext: string[] = [], where = 'here'): Part => ({
	verdict: verdict(level, statement, doNext),
	where,
	right: 'signature.act'
});
const due = (atMs: number, action: string): Due => ({
	atMs,
	action,
	station: 'Place 1',
	reason: '12 panels left',
	where: 'slots',
	right: 'feeder.load'
});

describe('a station has one verdict', () => {
	test('the worst of what is in use speaks, with its own act and place', () => {
		const { verdict: v, act } = stationStands(
			null,
			[part('good', 'fine'), part('act', 'blades differ', ['Swap the blades'], 'causes'), part('watch', 'a little low', ['Look'])],
			[],
			0
		);
		expect([v.level, v.statement, v.doNext]).toEqual(['act', 'blades differ', ['Swap the blades', 'Look']]);
		expect(act).toEqual({ say: 'Swap the blades', where: 'causes', right: 'signature.act', byMs: null });
	});

	test('of two that are as bad the first one given speaks', () => {
		expect(stationStands(null, [part('watch', 'one'), part('watch', 'two')], [], 0).verdict.statement).toBe('one');
	});

	test('a missing reading is never better than a judged one, nor worse', () => {
		expect(
			stationStands(null, [{ verdict: noData('nothing yet'), where: '', right: null }, part('good', 'fine')], [], 0).verdict.statement
		).toBe('fine');
		expect(stationStands(null, [{ verdict: noData('nothing yet', ['Start']), where: '', right: null }], [], 0)).toMatchObject({
			verdict: { level: 'noData' },
			act: null
		});
		expect(stationStands(null, [], [], 0).verdict.level).toBe('noData');
	});

	test('what is overdue asks for its act from that very moment on, and says which and how long', () => {
		const parts = [part('good', 'fine')];
		expect(stationStands(null, parts, [due(1000, 'Splice slot 4')], 999).verdict.level).toBe('good');
		const now = stationStands(null, parts, [due(1000, 'Splice slot 4')], 1000);
		expect(now.verdict).toMatchObject({ level: 'act', statement: 'Splice slot 4: due now, 12 panels left.' });
		expect(now.act).toMatchObject({ say: 'Splice slot 4', where: 'slots', right: 'feeder.load' });
		const says = (min: number) => stationStands(null, parts, [due(0, 'Splice slot 4')], min * 60_000).verdict.statement;
		expect(says(1)).toContain('due for 1 min');
		expect(says(59)).toContain('due for 59 min');
		expect(says(60)).toContain('due for 1 h 0 min');
	});

	test('a machine that stands says so before anything else', () => {
		const stopped = stationStands({ name: 'Oven', stopped: true, reason: 'panel jam' }, [part('act', 'hot', ['Cool it'])], [], 0);
		expect(stopped.verdict).toMatchObject({ level: 'stopped', statement: 'Oven has stopped: panel jam.', doNext: ['Clear it: panel jam'] });
		expect(stopped.act?.say).toBe('Clear it: panel jam');
		expect(stationStands({ name: 'Oven', stopped: true, reason: null }, [], [due(0, 'x')], 5).verdict.statement).toContain(
			'no reason given'
		);
		expect(stationStands({ name: 'Oven', stopped: false, reason: null }, [part('good', 'fine')], [], 0).verdict.level).toBe('good');
	});

	test('never better than any of its parts, and an act whenever something is to be done (property)', () => {
		const order = ['good', 'watch', 'act', 'stopped'];
		fc.assert(
			fc.property(fc.array(fc.constantFrom(...LEVELS), { minLength: 1, maxLength: 6 }), (levels) => {
				const { verdict: v, act } = stationStands(
					null,
					levels.map((level) => part(level, level, ['Do it'])),
					[],
					0
				);
				const judged = levels.filter((level) => level !== 'noData');
				expect(v.level).toBe(judged.length ? judged.sort((a, b) => order.indexOf(b) - order.indexOf(a))[0] : 'noData');
				expect(act !== null).toBe(order.indexOf(v.level) > 0);
			})
		);
	});
});

describe('the pace of a line', () => {
	const five = (s: number) => [s - 1, s, s, s, s + 1];

	test('the slowest station sets it, and only there is time to be gained', () => {
		const pace = judgePace([
			{ name: 'Print', plannedS: 20, cyclesS: [] },
			{ name: 'Oven', plannedS: 30, cyclesS: [] },
			{ name: 'Place 1', plannedS: 29, cyclesS: [] }
		]);
		expect(pace).toMatchObject({
			taktS: 30,
			bottleneck: 'Oven',
			verdict: { level: 'good', statement: 'One panel every 30.0 s; Oven sets the pace.' }
		});
		expect(pace.verdict.doNext).toEqual(['Only Oven counts: 1.0 s gained there before Place 1 is next']);
	});

	test('five reported cycles count before the plan, four do not', () => {
		const stages = (cyclesS: number[]) => [
			{ name: 'Print', plannedS: 20, cyclesS },
			{ name: 'Place 1', plannedS: 22, cyclesS: [] }
		];
		expect(judgePace(stages(five(25))).bottleneck).toBe('Print');
		expect(judgePace(stages(five(25).slice(1))).bottleneck).toBe('Place 1');
	});

	test('a bottleneck more than 8 % over its plan is watched, at 8 % it is not', () => {
		const at = (s: number) => judgePace([{ name: 'Print', plannedS: 100, cyclesS: five(s) }]).verdict;
		expect(at(108).level).toBe('good');
		expect(at(108.1)).toMatchObject({ level: 'watch', statement: 'One panel every 108.1 s; Print sets the pace, 8 % over its plan.' });
	});

	test('parts that no machine takes are said with it', () => {
		const pace = judgePace([{ name: 'A', plannedS: 40, cyclesS: [] }], 2);
		expect(pace.verdict).toMatchObject({ level: 'watch', statement: 'One panel every 40.0 s; A sets the pace; 2 part types need a hand.' });
		expect(judgePace([{ name: 'A', plannedS: 40, cyclesS: [] }], 1).verdict.doNext[0]).toBe(
			'Place 1 part type by hand: no machine takes them'
		);
		expect(judgePace([]).taktS).toBeNull();
		expect(judgePace([{ name: 'A', plannedS: null, cyclesS: [1, 2] }]).verdict.level).toBe('noData');
	});

	test('a station speaks of its own cycle and names who sets the pace: it never has another opinion on that', () => {
		const pace = judgePace([
			{ name: 'Print', plannedS: 20, cyclesS: five(20) },
			{ name: 'Place 1', plannedS: 30, cyclesS: five(30) }
		]);
		expect(judgeOwnPace('Print', five(20), 20, pace)).toMatchObject({
			level: 'good',
			statement: '20.0 s a panel; Place 1 sets the pace at 30.0 s.',
			doNext: []
		});
		expect(judgeOwnPace('Place 1', five(30), 30, pace).statement).toBe('30.0 s a panel; it sets the pace of the line.');
		expect(judgeOwnPace('Print', five(21.6), 20, pace).level).toBe('good');
		expect(judgeOwnPace('Print', five(21.7), 20, pace)).toMatchObject({
			level: 'watch',
			doNext: ['Look why Print takes longer than planned']
		});
		expect(judgeOwnPace('Print', five(30).slice(1), 20, pace).level).toBe('good');
		expect(judgeOwnPace('Print', [], 20, pace).level).toBe('noData');
	});
});

test('the line says what its worst station says; where all is well, its pace', () => {
	const stations = (...levels: Level[]) =>
		levels.map((level, i) => ({ name: `S${i}`, verdict: verdict(level, `${level} ${i}`), act: null }));
	const pace = verdict('good', 'One panel every 20.0 s.');
	expect(lineStands(stations('good', 'watch', 'act', 'act'), pace)).toEqual({ level: 'act', station: 'S2', statement: 'act 2' });
	expect(lineStands(stations('good', 'noData'), pace)).toEqual({ level: 'good', station: null, statement: 'One panel every 20.0 s.' });
	expect(lineStands([], pace).level).toBe('noData');
});

describe('the hours of a shift against the takt', () => {
	const H = 3_600_000;
	const shift = { startMs: 0, endMs: 2.5 * H };

	test('only time that is over, and in which a run was on, asks for panels', () => {
		const runs = [{ fromMs: 0.5 * H, toMs: null, taktS: 60 }];
		expect(hoursOfShift(shift, 1.25 * H, [0.9 * H, H, 1.2 * H], runs)).toEqual([
			{ fromMs: 0, toMs: H, finished: 1, asked: 30 },
			{ fromMs: H, toMs: 2 * H, finished: 2, asked: 15 }
		]);
	});

	test('the last hour ends with the shift; two runs in one hour ask each for their own time', () => {
		const hours = hoursOfShift(
			shift,
			3 * H,
			[],
			[
				{ fromMs: 0, toMs: 0.5 * H, taktS: 30 },
				{ fromMs: 0.5 * H, toMs: null, taktS: 90 }
			]
		);
		expect(hours.map((h) => h.asked)).toEqual([80, 40, 20]);
		expect(hours[2]).toMatchObject({ toMs: 2.5 * H });
		expect(hoursOfShift(shift, -1, [], [])).toEqual([]);
		expect(hoursOfShift(shift, 0, [], [])).toHaveLength(1);
	});
});
