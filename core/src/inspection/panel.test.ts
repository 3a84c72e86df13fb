import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { DEPOSIT_LIMITS } from './deposit.ts';
import { padSize, panelSizes } from './pad-size.ts';
import { fromSummary, judgePads, judgeReadings as judged, wrongLength, type PanelReadings, type SidePads } from './panel.ts';

const FOIL_UM = 100;
const even = (mm: number) => ({ xMm: mm, yMm: mm });
const judgeReadings = (m: PanelReadings, side: SidePads, foilUm: number) => judged(m, side, foilUm, DEPOSIT_LIMITS);
const pads = (n: number, circuits = 1): SidePads => ({
	circuits,
	classes: Array.from({ length: n }, (_, i) => (i % 3 === 0 ? 'smallChip' : 'chip')),
	sizes: Array.from({ length: n * circuits }, () => even(0.5)),
	refDes: Array.from({ length: n }, (_, i) => `R${i}`)
});

const readings = (volumePct: number[], more: Partial<PanelReadings> = {}): PanelReadings => ({
	volumePct,
	heightUm: volumePct.map(() => 100),
	areaPct: volumePct.map(() => 100),
	offsetXUm: volumePct.map(() => 0),
	offsetYUm: volumePct.map(() => 0),
	...more
});

test('a thermal pad fails by the mean of its windows, though each window passes', () => {
	const side: SidePads = {
		circuits: 2,
		classes: ['thermal', 'thermal', 'chip'],
		sizes: [1, 1, 0.5, 1, 1, 0.5].map(even),
		refDes: ['U1', 'U1', 'R1']
	};
	const result = judgeReadings(readings([61, 65, 100, 90, 95, 100]), side, FOIL_UM);
	expect(result).toMatchObject({ fails: 1, result: 'reject', worst: [{ pad: 0, code: 'thermal mean', volumePct: 63 }] });
	expect(result.classes.map((c) => [c.padClass, c.fails])).toEqual([
		['thermal', 1],
		['chip', 0]
	]);
});

describe('readings of a panel', () => {
	test('of another board are refused by name and number', () => {
		expect(wrongLength(readings([100, 100, 100]), pads(4))).toBe('volumePct has 3 values, the panel has 4 pads');
		expect(wrongLength(readings([100, 100, 100, 100], { offsetXUm: [0] }), pads(2, 2))).toBe(
			'offsetXUm has 1 values, the panel has 4 pads'
		);
		expect(wrongLength(readings([100, 100, 100, 100]), pads(2, 2))).toBeNull();
	});

	test('each pad goes by the limits of its class and the foil; the first that fails is named', () => {
		// Small chips fail below 60 %, chips below 50 %; both are watched a little above.
		const result = judgeReadings(readings([55, 55, 48, 62, 100, 5]), pads(6), FOIL_UM);
		expect(result).toMatchObject({ pads: 6, fails: 3, warnings: 2, result: 'reject' });
		expect(result.worst).toEqual([
			{ pad: 0, code: 'insufficient', volumePct: 55 },
			{ pad: 2, code: 'insufficient', volumePct: 48 },
			{ pad: 5, code: 'missing', volumePct: 5 }
		]);
		// 100 µm of paste on a foil of 150 µm is two thirds of it: nothing wrong; on a foil of 300 µm it is too low.
		expect(judgeReadings(readings([100]), pads(1), 150).fails).toBe(0);
		expect(judgeReadings(readings([100]), pads(1), 300).worst[0]!.code).toBe('height');
	});

	test('pads of the second circuit go by the same classes as those of the first', () => {
		const result = judgeReadings(readings([55, 55, 55, 55]), pads(2, 2), FOIL_UM);
		expect(result.worst.map((w) => w.pad)).toEqual([0, 2]);
	});

	test('what a machine has left of its readings gives the same sums (property)', () => {
		const volumes = fc.array(fc.integer({ min: 20, max: 180 }), { minLength: 6, maxLength: 120 });
		fc.assert(
			fc.property(volumes, (volumePct) => {
				const full = judgeReadings(readings(volumePct), pads(volumePct.length), FOIL_UM);
				const summary = {
					classes: full.classes.map(({ padClass, pads: n, fails, sum, sumSquares }) => ({
						padClass,
						pads: n,
						fails,
						warnings: padClass === 'chip' ? full.warnings : 0,
						meanVolumePct: sum / n,
						sdVolumePct: n > 1 ? Math.sqrt(Math.max(0, sumSquares - (sum * sum) / n) / (n - 1)) : 0
					})),
					worst: full.worst
				};
				const again = fromSummary(summary);
				expect([again.pads, again.fails, again.warnings, again.result]).toEqual([full.pads, full.fails, full.warnings, full.result]);
				expect(again.meanVolumePct).toBeCloseTo(full.meanVolumePct, 6);
				again.classes.forEach((c, i) => expect(c.sumSquares / full.classes[i]!.sumSquares).toBeCloseTo(1, 9));
			}),
			{ numRuns: 60 }
		);
	});

	test('a drawing names every code of every pad as the panel was judged: the thermal mean too, and nothing where nothing was measured', () => {
		const side: SidePads = {
			circuits: 1,
			classes: ['thermal', 'thermal', 'chip', 'smallChip'],
			sizes: [1, 1, 0.5, 0.5].map(even),
			refDes: ['U1', 'U1', 'R1', 'R2']
		};
		const limits = DEPOSIT_LIMITS;
		const levels = (volumePct: number[], more: Partial<PanelReadings> = {}) => judgePads(readings(volumePct, more), side, FOIL_UM, limits);
		expect(levels([61, 65, 100, 68]).map((p) => [p.level, p.codes])).toEqual([
			['act', ['thermal mean']],
			['act', ['thermal mean']],
			['good', []],
			['watch', []]
		]);
		expect(levels([100, 100, NaN, 59.9]).map((p) => p.level)).toEqual(['good', 'good', 'noData', 'act']);
		expect(levels([100, 100, NaN, 100], { bridgedPads: [2] })[2]).toEqual({ codes: ['bridge'], level: 'act' });
		// The limits that are given decide, not those of today.
		const wide = {
			...limits,
			smallChip: { ...limits.smallChip, volumePct: { fail: [50, 160] as [number, number], warn: [55, 145] as [number, number] } }
		};
		expect(judgePads(readings([100, 100, 100, 55]), side, FOIL_UM, wide)[3]!.level).toBe('good');
	});

	test('a drawing and the sums agree on what failed and what is watched (property)', () => {
		fc.assert(
			fc.property(fc.array(fc.double({ min: 0, max: 200, noNaN: true }), { minLength: 3, maxLength: 60 }), (volumePct) => {
				const side = pads(volumePct.length);
				const sums = judgeReadings(readings(volumePct), side, FOIL_UM);
				const drawn = judgePads(readings(volumePct), side, FOIL_UM, DEPOSIT_LIMITS);
				expect(drawn.filter((p) => p.level === 'act')).toHaveLength(sums.fails);
				expect(drawn.filter((p) => p.level === 'watch')).toHaveLength(sums.warnings);
			})
		);
	});
});

describe('an offset is a share of the pad in its own axis', () => {
	/** A lead's opening of 0.22 by 1.3 mm. */
	const box = (xMm: number, yMm: number) => ({
		outline: [
			{ x: 0, y: 0 },
			{ x: xMm, y: 0 },
			{ x: xMm, y: yMm },
			{ x: 0, y: yMm }
		],
		areaMm2: xMm * yMm,
		widthMm: Math.min(xMm, yMm)
	});
	const lead = box(0.22, 1.3);
	const at = (rotationDeg: number) => ({ x: 0, y: 0, rotationDeg });
	const offset = (sizes: SidePads['sizes'], x: number, y: number) =>
		judged(
			readings([100], { offsetXUm: [x], offsetYUm: [y] }),
			{ circuits: 1, classes: ['fineLead'], sizes, refDes: ['U1'] },
			FOIL_UM,
			DEPOSIT_LIMITS
		).fails;

	test('a lead of 0.22 by 1.3 mm may be 44 µm off across and 260 µm along, and no more', () => {
		const sizes = panelSizes([lead], { origins: [at(0)] });
		expect([offset(sizes, 44, 0), offset(sizes, 44.1, 0), offset(sizes, -44.1, 0)]).toEqual([0, 1, 1]);
		expect([offset(sizes, 0, 60), offset(sizes, 0, 260), offset(sizes, 0, 260.1), offset(sizes, 0, -260.1)]).toEqual([0, 0, 1, 1]);
	});
	test('in a circuit that is turned by a quarter, x and y change places; by half a turn they do not', () => {
		for (const [deg, xUm, yUm] of [
			[0, 44, 260],
			[90, 260, 44],
			[180, 44, 260],
			[270, 260, 44],
			[-90, 260, 44]
		] as const) {
			const sizes = panelSizes([lead], { origins: [at(deg)] });
			expect([offset(sizes, xUm, 0), offset(sizes, xUm + 0.1, 0), offset(sizes, 0, yUm), offset(sizes, 0, yUm + 0.1)], String(deg)).toEqual(
				[0, 1, 0, 1]
			);
		}
	});
	test('one that lies askew is as narrow either way; a disc is as wide as it is', () => {
		expect(panelSizes([lead], { origins: [at(30)] })).toEqual([{ xMm: 0.22, yMm: 0.22 }]);
		const askew = {
			outline: [
				{ x: 0, y: 0 },
				{ x: 1, y: 1 },
				{ x: 0.9, y: 1.1 },
				{ x: -0.1, y: 0.1 }
			],
			areaMm2: 0.2,
			widthMm: 0.141
		};
		expect(padSize(askew)).toEqual({ xMm: 0.141, yMm: 0.141 });
		const disc = Array.from({ length: 64 }, (_, i) => ({ x: Math.cos((i * Math.PI) / 32) / 4, y: Math.sin((i * Math.PI) / 32) / 4 }));
		expect(padSize({ outline: disc, areaMm2: Math.PI / 16, widthMm: 0.5 })).toEqual({ xMm: 0.5, yMm: 0.5 });
	});
});
