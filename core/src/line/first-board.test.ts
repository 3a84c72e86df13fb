import { describe, expect, test } from 'vitest';
import {
	firstBoardItems,
	firstBoardLines,
	firstBoardMode,
	judgeFirstBoard,
	refusesFirstBoard,
	type FirstBoardAnswer,
	type FirstBoardFacts
} from './index.ts';

const KNOWN = { never: false, newRevisions: [], newLots: [], wrongBefore: false };
const FACTS: FirstBoardFacts = {
	paste: { lots: ['L-1'], stencil: 'S-1', printRecipe: 2 },
	slots: [
		{
			station: 'Place 1',
			slot: 5,
			partNumber: 'R-10K',
			value: '10k',
			refDes: ['R1', 'R2'],
			feeder: 'F-1',
			reel: 'E-1',
			lot: 'M-1',
			trims: []
		},
		{ station: 'Place 2', slot: 7, partNumber: 'U-1', value: 'U-1', refDes: ['U1'], feeder: 'F-2', reel: 'E-2', lot: 'M-2', trims: [] }
	],
	placers: [{ station: 'Place 1', program: 3, nozzlesMs: null, trims: [] }],
	byHand: [{ partNumber: 'J-1', refDes: ['J1'] }],
	oven: { station: 'Oven', recipe: 4 }
};
const items = firstBoardItems(FACTS);
const said = (key: string, over: Partial<FirstBoardAnswer> = {}): FirstBoardAnswer => ({
	key,
	rests: items.find((item) => item.key === key)!.rests,
	right: true,
	note: '',
	panel: 'J-1-0001',
	personId: 'anna',
	by: 'A. Finch',
	atMs: 1000,
	...over
});
const all = items.map(({ key }) => said(key));
const of = { number: 'J-1', mode: 'hold' as const, why: ['the program is new'], printed: 2, released: null };

describe('hold or roll', () => {
	test.each([
		{ policy: 'byRisk', risk: {}, mode: 'roll', why: ['a proven repeat'] },
		{ policy: 'byRisk', risk: { never: true, newRevisions: ['stencil'] }, mode: 'hold', why: ['nothing was built of it here before'] },
		{ policy: 'byRisk', risk: { newRevisions: ['stencil', 'program'] }, mode: 'hold', why: ['the stencil is new', 'the program is new'] },
		{ policy: 'byRisk', risk: { newLots: ['L-9'] }, mode: 'hold', why: ['paste of lot L-9 is new to it'] },
		{ policy: 'byRisk', risk: { wrongBefore: true }, mode: 'hold', why: ['its last first board had something wrong'] },
		{ policy: 'hold', risk: {}, mode: 'hold', why: ['the plant holds every first board'] },
		{ policy: 'roll', risk: { never: true }, mode: 'roll', why: ['the plant rolls every first board'] },
		{ policy: 'none', risk: { never: true }, mode: null, why: [] }
	] as const)('$policy, $risk: $mode', ({ policy, risk, mode, why }) => {
		expect(firstBoardMode(policy, { ...KNOWN, ...risk })).toEqual({ mode, why });
	});
});

describe('a trim', () => {
	const again = (facts: FirstBoardFacts) => firstBoardLines(firstBoardItems(facts), all).filter(({ mark }) => mark === 'again');

	test('of a slot’s parts opens that slot’s line again and no other; one of the whole program its placer’s', () => {
		const [first, second] = FACTS.slots;
		expect(again({ ...FACTS, slots: [{ ...first!, trims: [2] }, second!] }).map(({ key }) => key)).toEqual(['slot Place 1 5']);
		const [placer] = FACTS.placers;
		const whole = again({ ...FACTS, placers: [{ ...placer!, trims: [1, 3] }] });
		expect(whole.map(({ key }) => key)).toEqual(['placer Place 1']);
		expect(whole[0]!.rests).toMatch(/, trim 1, 3$/);
		expect(again(FACTS)).toEqual([]);
	});
});

describe('the checklist', () => {
	test('is made from the run, in the order in which boards travel', () => {
		expect(items.map(({ key }) => key)).toEqual(['paste', 'slot Place 1 5', 'slot Place 2 7', 'placer Place 1', 'hand J-1', 'oven']);
		expect(items.map(({ through }) => through)).toEqual([null, 'Place 1', 'Place 2', 'Place 1', null, 'Oven']);
		expect(items[1]!.look).toBe('R-10K 10k: value, polarity, place of R1 R2');
		expect(items[2]!.look).toBe('U-1: value, polarity, place of U1');
	});

	test.each([
		{
			what: 'another reel lot',
			facts: { ...FACTS, slots: [{ ...FACTS.slots[0]!, lot: 'M-9' }, FACTS.slots[1]!] },
			open: ['slot Place 1 5']
		},
		{
			what: 'another feeder',
			facts: { ...FACTS, slots: [FACTS.slots[0]!, { ...FACTS.slots[1]!, feeder: 'F-9' }] },
			open: ['slot Place 2 7']
		},
		{ what: 'a nozzle', facts: { ...FACTS, placers: [{ ...FACTS.placers[0]!, nozzlesMs: 5000 }] }, open: ['placer Place 1'] },
		{ what: 'another oven recipe', facts: { ...FACTS, oven: { ...FACTS.oven, recipe: 5 } }, open: ['oven'] },
		{ what: 'another paste lot', facts: { ...FACTS, paste: { ...FACTS.paste, lots: ['L-1', 'L-2'] } }, open: ['paste'] }
	])('$what opens just its lines again', ({ facts, open }) => {
		const lines = firstBoardLines(firstBoardItems(facts), all);
		expect(lines.filter(({ mark }) => mark !== 'right').map(({ key, mark }) => [key, mark])).toEqual(open.map((key) => [key, 'again']));
	});

	test('the latest answer of a line counts, whatever the order in which they come', () => {
		const later = said('oven', { right: false, atMs: 2000 });
		for (const answers of [
			[...all, later],
			[later, ...all]
		])
			expect(firstBoardLines(items, answers).find(({ key }) => key === 'oven')!.mark).toBe('wrong');
	});
});

describe('release', () => {
	test('not before each line is right, and only by somebody who looked at none of them', () => {
		expect(refusesFirstBoard(firstBoardLines(items, all.slice(1)), 'bert')).toBe('One line is not right: Print.');
		expect(refusesFirstBoard(firstBoardLines(items, []), 'bert')).toBe('6 lines are not right: Print.');
		expect(refusesFirstBoard(firstBoardLines(items, [...all.slice(1), said('paste', { personId: 'bert' })]), 'bert')).toBe(
			'A second person releases it: you looked at Print yourself.'
		);
		expect(refusesFirstBoard(firstBoardLines(items, all), 'bert')).toBeNull();
	});
});

describe('the verdict', () => {
	const lines = firstBoardLines(items, all);
	test.each([
		{ what: 'nothing printed', given: { printed: 0 }, level: 'noData', says: 'Nothing of J-1 is printed yet.' },
		{
			what: 'nobody has looked, held',
			given: { lines: firstBoardLines(items, []) },
			level: 'act',
			says: '6 of 6 lines of the first board of J-1 are still to be looked at; nothing more is printed before its release.'
		},
		{
			what: 'nobody has looked, rolled',
			given: { lines: firstBoardLines(items, []), mode: 'roll' as const },
			level: 'watch',
			says: '6 of 6 lines of the first board of J-1 are still to be looked at.'
		},
		{
			what: 'all right, held',
			given: {},
			level: 'act',
			says: 'The first board of J-1 is right and waits for a second person; nothing more is printed before its release.'
		},
		{ what: 'released', given: { released: { by: 'B. Rook' } }, level: 'good', says: 'The first board of J-1 is released by B. Rook.' },
		{
			what: 'one wrong',
			given: { lines: firstBoardLines(items, [...all, said('slot Place 1 5', { right: false, atMs: 2000 })]), released: { by: 'B. Rook' } },
			level: 'act',
			says: 'Place 1, slot 5 is wrong on the first board of J-1.'
		},
		{
			what: 'released, a reel changed',
			given: {
				lines: firstBoardLines(firstBoardItems({ ...FACTS, slots: [{ ...FACTS.slots[0]!, lot: 'M-9' }, FACTS.slots[1]!] }), all),
				released: { by: 'B. Rook' }
			},
			level: 'watch',
			says: 'Place 1, slot 5 changed since the first board of J-1 was released.'
		}
	])('$what', ({ given, level, says }) => {
		const verdict = judgeFirstBoard({ ...of, lines, ...given });
		expect([verdict.level, verdict.statement]).toEqual([level, says]);
	});
});
