import { describe, expect, test } from 'vitest';
import {
	checkStencil,
	chooseFoil,
	deliveredByFoil,
	expectedShortPads,
	foilAlternatives,
	forecastOpening,
	hardestOpenings,
	judgeLongOpenings,
	judgeWebs,
	DEFAULT_TRANSFER,
	type NeedyOpening
} from './index.ts';

/** A square opening of that side, mm. */
const square = (name: string, sideMm: number, neededMm3?: number): NeedyOpening => ({
	name,
	areaMm2: sideMm * sideMm,
	perimeterMm: 4 * sideMm,
	widthMm: sideMm,
	lengthMm: sideMm,
	...(neededMm3 === undefined ? {} : { neededMm3 })
});
// A square's area ratio is a quarter of its side over the foil: at 100 µm 0.264 gives 0.66, 0.4 gives 1.

describe('what a foil is judged by', () => {
	test('every opening passes: it says so, and that a thicker one would carry more', () => {
		const { verdict, counts, workingFoilsMm, ranking, deliveredMm3, forecasts } = checkStencil(
			[square('A', 0.5), square('B', 0.4)],
			0.1,
			'laser',
			DEFAULT_TRANSFER
		);
		expect(counts).toEqual({ pass: 2, marginal: 0, fail: 0 });
		expect(ranking).toEqual([1, 0]);
		expect(deliveredMm3).toBeCloseTo((forecasts[0]!.deliveredNl + forecasts[1]!.deliveredNl) / 1000, 12);
		expect(workingFoilsMm[0]).toBeGreaterThan(0.1);
		expect(verdict).toMatchObject({
			level: 'good',
			statement: '100 µm works for all 2 openings.',
			doNext: [`${Math.round(workingFoilsMm[0]! * 1000)} µm would work too and carries more paste`]
		});
		expect(verdict.because).toMatchObject([
			{ quantity: 'Area ratio of B', value: expect.closeTo(1, 9), limit: 'at least 0.66, plain laser cut' },
			{ quantity: 'Thickest foil for that opening', value: expect.closeTo(400 / 4 / 0.66, 6), unit: 'µm' },
			{ quantity: 'Paste delivered, all openings', value: expect.closeTo(deliveredMm3, 12) }
		]);
	});

	test('the thickest that works is to be ordered', () => {
		expect(checkStencil([square('A', 0.5)], 0.15, 'laser').verdict.doNext).toEqual([
			'Order 150 µm: it is the thickest stock foil that works'
		]);
	});

	test('near the limit it is to be watched; below it the foil does not work, and which would is said', () => {
		const close = checkStencil([square('A', 0.27), square('B', 1)], 0.1, 'laser');
		expect(close.verdict).toMatchObject({
			level: 'watch',
			statement: '100 µm works; 1 openings are close to the limit, A nearest.',
			doNext: ['Watch those openings at paste check']
		});
		const fails = checkStencil([square('A', 0.26), square('B', 1)], 0.1, 'laser');
		expect(fails.verdict).toMatchObject({
			level: 'act',
			statement: '100 µm does not work: 1 of 2 openings release badly, A worst.',
			doNext: [`Take ${Math.round(fails.workingFoilsMm[0]! * 1000)} µm: every opening passes`]
		});
		const none = checkStencil([square('A', 0.05)], 0.1, 'laser').verdict.doNext;
		expect(none).toEqual(['No stock foil works: A needs 19 µm or thinner', 'Enlarge those openings, or choose finer walls']);
	});

	test('at the limit a thicker stock foil is named beside watching', () => {
		const slot = { name: 'S', areaMm2: 0.152 * 2, perimeterMm: 4.304, widthMm: 0.152, lengthMm: 2 };
		const { verdict, workingFoilsMm } = checkStencil([slot], 0.1, 'laser');
		expect(workingFoilsMm[0]).toBeCloseTo(0.1, 6);
		expect(verdict.because[0]).toMatchObject({ quantity: 'Aspect ratio of S', value: expect.closeTo(1.52, 9) });
		expect(verdict.doNext).toEqual(['Watch those openings at paste check']);
		expect(checkStencil([slot], 0.08, 'laser').verdict.doNext).toEqual(['100 µm would work too and carries more paste']);
	});

	test('no openings are no verdict, with what to do', () => {
		expect(checkStencil([], 0.1, 'laser').verdict).toMatchObject({ level: 'noData', doNext: ['Upload the paste layer'] });
	});
});

describe('the openings that are hardest to release', () => {
	const openings = [square('A', 0.5), square('B', 0.3), square('C', 0.3), square('D', 0.4), square('E', 0.6), square('F', 0.7)];

	test('one of each size, the hardest first, four at most; a chosen one before them', () => {
		expect(hardestOpenings(openings, 0.1, 'laser', DEFAULT_TRANSFER)).toEqual([1, 3, 0, 4]);
		expect(hardestOpenings(openings, 0.1, 'laser', DEFAULT_TRANSFER, 5)).toEqual([5, 1, 3, 0]);
		expect(hardestOpenings(openings, 0.1, 'laser', DEFAULT_TRANSFER, 99, 2)).toEqual([1, 3]);
	});

	test('what one delivers is said only where its ratio was measured', () => {
		const of = (from: number, to: number) => deliveredByFoil(square('A', 0.4), [0.08, 0.1, 0.125], 'laser', DEFAULT_TRANSFER, { from, to });
		// Ratios 1.25, 1 and 0.8.
		expect(of(0.8, 1.25).map((v) => v !== null)).toEqual([true, true, true]);
		expect(of(0.81, 1.24).map((v) => v !== null)).toEqual([false, true, false]);
		expect(of(0.8, 1)[1]).toBeCloseTo(forecastOpening(square('A', 0.4), 0.1, 'laser').deliveredNl, 12);
		expect(deliveredByFoil(square('A', 0.4), [0.1], 'laser', DEFAULT_TRANSFER, null)).toEqual([null]);
	});
});

describe('the choice of a foil, in words and numbers', () => {
	const foils = [0.08, 0.1, 0.12, 0.15];
	const choose = (openings: NeedyOpening[], of = foils) => chooseFoil(openings, 'laser', DEFAULT_TRANSFER, of);
	const give = (o: NeedyOpening, foilMm: number) => forecastOpening(o, foilMm, 'laser').deliveredNl / 1000;

	test('one foil: the thickest that every opening lets go from', () => {
		// 0.3 at 0.66 allows 113.6 µm.
		const one = choose([square('A', 0.3), square('B', 1)]);
		expect(one).toMatchObject({
			kind: 'single',
			foilMm: 0.1,
			stepMm: null,
			short: [],
			worst: { index: 0, name: 'A', thickestMm: expect.closeTo(0.3 / 4 / 0.66, 9) }
		});
		expect(one.verdict).toMatchObject({ level: 'good', statement: 'One foil of 100 µm serves every opening.', doNext: ['Order 100 µm'] });
		expect(one.verdict.because[0]).toMatchObject({
			quantity: 'Thickest foil for A',
			value: expect.closeTo(113.636, 3),
			limit: 'area ratio of at least 0.66'
		});
	});

	test('a step: the thinnest foil that gives the large joint enough, thinner under the small openings', () => {
		const large = square('J1', 1);
		const need = give(large, 0.11);
		const step = choose([square('A', 0.25), { ...large, neededMm3: need }, square('C', 0.26)]);
		// 0.25 allows 94.7 µm: 80; the joint asks for more than 100, so 120.
		expect(step).toMatchObject({
			kind: 'step',
			foilMm: 0.12,
			stepMm: 0.08,
			stepUm: 40,
			inStep: [0, 2],
			keepOutMm: expect.closeTo(0.9 * 1.6 + 0.65, 9)
		});
		expect(step.short).toEqual([{ index: 1, name: 'J1', deliveredMm3: expect.closeTo(give(large, 0.08), 9), neededMm3: need }]);
		expect(step.verdict).toMatchObject({
			level: 'watch',
			statement: '120 µm with a step down to 80 µm under 2 openings; 2.09 mm clear across its edge.',
			doNext: ['Order 120 µm with the step', 'Check the distance across the edge of the step']
		});
	});

	test('what a joint needs exactly is enough', () => {
		const large = square('J1', 1);
		expect(choose([{ ...large, neededMm3: give(large, 0.15) }])).toMatchObject({ kind: 'single', foilMm: 0.15 });
		expect(choose([{ ...large, neededMm3: give(large, 0.15) * 1.001 }]).kind).toBe('none');
	});

	test('no step is deeper than 50 µm: then the ways out, each with its number', () => {
		const large = square('J1', 1);
		const none = choose([square('A', 0.25), { ...large, neededMm3: give(large, 0.14) }]);
		// From 150 down to 80 would be 70 µm.
		expect(none).toMatchObject({ kind: 'none', foilMm: null, stepMm: null, inStep: [] });
		const scale = Math.sqrt(give(large, 0.14) / give(large, 0.08));
		expect(none.alternatives[0]).toEqual({
			what: 'Enlarge the large openings',
			how: `by ${((scale - 1) * 100).toFixed(0)} % in each direction at 80 µm`
		});
		expect(none.alternatives.at(-1)).toEqual({
			what: 'Split the job',
			how: 'print the small openings at 80 µm, dispense or print the large ones for 150 µm'
		});
		expect(none.verdict).toMatchObject({ level: 'act', doNext: none.alternatives.map((a) => `${a.what}: ${a.how}`) });
		expect(none.verdict.statement).toContain(
			'No foil and no step of 50 µm or less serves them all: A needs 94.7 µm or thinner, J1 needs more paste.'
		);
	});

	test('a coated wall is offered where it helps, and not to one that is coated', () => {
		const fine = [square('A', 0.19)];
		const offered = (of: number[], wall: 'laser' | 'nanoCoated' = 'laser') =>
			chooseFoil(fine, wall, DEFAULT_TRANSFER, of).alternatives.map((a) => a.what);
		expect(chooseFoil(fine, 'laser', DEFAULT_TRANSFER, [0.08]).verdict.statement).toBe('No foil works: A needs 72 µm or thinner.');
		expect(chooseFoil(fine, 'laser', DEFAULT_TRANSFER, [0.08]).alternatives).toContainEqual({
			what: 'Coat the foil',
			how: '80 µm then serves them all'
		});
		expect(offered([0.12], 'nanoCoated')).toEqual([]);
		expect(offered([0.15])).toEqual([]);
	});

	test('nothing to choose for, or from, is refused', () => {
		expect(() => choose([])).toThrow('openings');
		expect(() => choose([square('A', 1)], [])).toThrow('foilsMm');
	});
});

describe('pads that come out short', () => {
	const opening = { ...square('A', 0.4), lowPct: 60 };

	test('in a thousand panels, from mean and spread of the curve', () => {
		const { efficiency, cvPct } = forecastOpening(opening, 0.1, 'laser');
		const short = expectedShortPads([{ ...opening, lowPct: 100 * efficiency }], 0.1, 'laser');
		// Half of the pads lie below the mean.
		expect(short).toBeCloseTo(500, 6);
		const oneSigma = expectedShortPads([{ ...opening, lowPct: 100 * efficiency * (1 - cvPct / 100) }], 0.1, 'laser');
		expect(oneSigma).toBeCloseTo(158.655, 2);
		expect(expectedShortPads([opening, opening], () => 0.1, 'laser')).toBeCloseTo(2 * expectedShortPads([opening], 0.1, 'laser'), 9);
	});

	test('each stock foil with each wall, and whether it works there', () => {
		const all = foilAlternatives(
			() => [{ ...opening, neededMm3: forecastOpening(opening, 0.1, 'laser').deliveredNl / 1000 }],
			DEFAULT_TRANSFER,
			[0.08, 0.1, 0.2]
		);
		const laser = all.filter((a) => a.wall === 'laser' && a.stepMm === null).map((a) => [a.foilMm, a.works]);
		// 80 µm gives too little, 200 µm holds on to it.
		expect(laser).toEqual([
			[0.08, false],
			[0.1, true],
			[0.2, false]
		]);
	});
});

describe('long openings and thin webs', () => {
	test('3 mm is one piece, more may be scooped: the longest is named', () => {
		const name = (i: number) => `O${i}`;
		expect(judgeLongOpenings([{ lengthMm: 3 }, { lengthMm: 1 }], name)).toBeNull();
		expect(judgeLongOpenings([{ lengthMm: 3.001 }, { lengthMm: 4.5 }, { lengthMm: 4 }], name)).toMatchObject({
			level: 'watch',
			statement: '3 openings are over 3 mm and may be scooped: O1, 4.50 mm.',
			because: [{ quantity: 'Length of O1', value: 4.5, unit: 'mm' }],
			doNext: ['Divide them into windows']
		});
		expect(judgeLongOpenings([{ lengthMm: 3.2 }], name)!.statement).toContain('1 opening is over 3 mm');
	});

	test.each([
		[0.149, 0.1, 'fail'],
		[0.15, 0.1, 'marginal'],
		[0.199, 0.1, 'marginal'],
		[0.2, 0.1, 'pass'],
		[0.187, 0.15, 'fail'],
		[0.1875, 0.15, 'marginal'],
		[0.249, 0.2, 'fail'],
		[0.25, 0.2, 'pass']
	])('a web of %f mm in a foil of %f mm is a %s', (webMm, foilMm, result) => {
		expect(judgeWebs([{ webMm, neighbour: 1 }], foilMm, (i) => `O${i}`).results).toEqual([result]);
	});

	test('the thinnest pair is named, with what to do; webs beyond reach are wide enough', () => {
		const name = (i: number) => `O${i}`;
		const thin = judgeWebs(
			[
				{ webMm: 0.16, neighbour: 1 },
				{ webMm: 0.1, neighbour: 2 },
				{ webMm: null, neighbour: null }
			],
			0.1,
			name
		).verdict;
		expect(thin).toMatchObject({ level: 'act', doNext: ['Reduce one of the two, or thin the foil'] });
		expect(thin.statement).toMatch(/^1 web of foil is too thin: .*O1.*O2/);
		expect(thin.because).toMatchObject([{ quantity: 'Thinnest web', value: 0.1, limit: 'at least 0.150' }]);
		const narrow = judgeWebs([{ webMm: 0.16, neighbour: 1 }], 0.1, name).verdict;
		expect(narrow).toMatchObject({ level: 'watch', doNext: ['Handle this foil with care when it is cleaned, or reduce one of the two'] });
		expect(judgeWebs([{ webMm: null, neighbour: null }], 0.1, name).verdict).toEqual({
			level: 'good',
			statement: 'Every web of foil is wide enough.',
			because: [],
			doNext: []
		});
	});
});
