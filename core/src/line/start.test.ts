import { describe, expect, test } from 'vitest';
import { START_STEPS, startSteps, type PlantFacts } from './index.ts';

const EMPTY: PlantFacts = {
	plantSaid: false,
	people: 1,
	invited: 0,
	leads: 1,
	rulesSaid: false,
	lines: [],
	sources: 0,
	pastes: 0,
	jars: 0,
	sides: 0,
	readySides: 0,
	jobs: 0,
	panels: 0
};
const DONE: PlantFacts = {
	plantSaid: true,
	people: 2,
	invited: 0,
	leads: 2,
	rulesSaid: true,
	lines: [{ name: 'Line 1', stations: 6 }],
	sources: 1,
	pastes: 1,
	jars: 1,
	sides: 1,
	readySides: 1,
	jobs: 1,
	panels: 1
};
const of = (facts: Partial<PlantFacts>, from = DONE) => Object.fromEntries(startSteps({ ...from, ...facts }).map((s) => [s.code, s]));
const levels = (facts: Partial<PlantFacts>, from = DONE) => startSteps({ ...from, ...facts }).map((s) => s.level);

describe('the way to the first panel', () => {
	test('an empty plant has one thing to do, and nine that come after it', () => {
		expect(startSteps(EMPTY).map((s) => s.code)).toEqual([...START_STEPS]);
		expect(levels({}, EMPTY)).toEqual(['act', ...Array(9).fill('noData')]);
		expect(startSteps(EMPTY).every((s) => s.next.endsWith('.'))).toBe(true);
	});
	test('a plant that prints has nothing left', () => {
		expect(levels({})).toEqual(Array(10).fill('good'));
		expect(startSteps(DONE).every((s) => s.next === '')).toBe(true);
	});
	test('what is there counts in whatever order it came; the first that is missing is next', () => {
		expect(levels({ rulesSaid: false, jars: 0, panels: 0 })).toEqual([
			'good',
			'good',
			'good',
			'act',
			'good',
			'noData',
			'good',
			'good',
			'good',
			'noData'
		]);
	});
	test('a second person is enough to go on, with what is still open said', () => {
		expect(of({ people: 1, leads: 1 }).people).toMatchObject({ level: 'act' });
		expect(of({ people: 1, invited: 1, leads: 1 }).people).toMatchObject({
			level: 'watch',
			stands: '1 person can sign in, 1 has a starting code'
		});
		expect(of({ people: 3, leads: 1 }).people).toMatchObject({ level: 'watch', next: 'A second lead can reset the first one’s PIN.' });
		expect(of({ people: 3, leads: 2 }).people).toMatchObject({ level: 'good', stands: '3 people can sign in' });
	});
	test('a line without a station is none; results by hand and by file are as good as a token', () => {
		expect(of({ lines: [{ name: 'Line 1', stations: 0 }] }).lines!.level).toBe('act');
		expect(of({ sources: 0 }).machines!.level).toBe('act');
		expect(of({ sources: null }).machines).toMatchObject({ level: 'good', stands: 'by hand and by file' });
	});
	test('a paste without a jar, and a jar of no paste that is defined, print nothing', () => {
		expect(of({ jars: 0 }).paste).toMatchObject({ level: 'act', next: 'Receive a jar by its label.' });
		expect(of({ pastes: 0 }).paste!.level).toBe('act');
	});
});
