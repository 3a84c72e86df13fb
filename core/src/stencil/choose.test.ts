import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
	chooseFoil,
	DEEPEST_STEP_UM,
	DEFAULT_TRANSFER,
	expectedShortPads,
	fitTransfer,
	forecastOpening,
	measureShape,
	paneForCoverage,
	paneFromWeb,
	paneWindows,
	pinAreaMm2,
	pinInPaste,
	stepKeepOutMm,
	STOCK_FOILS_MM,
	transferEfficiency,
	turningAreaRatio,
	windowPanes,
	type NeedyOpening
} from './index.ts';

const side = fc.double({ min: 0.2, max: 2.5, noNaN: true });
const opening = (l: number, w: number, name: string, neededMm3?: number): NeedyOpening => ({
	...measureShape({ kind: 'rectangle', lengthMm: l, widthMm: w }),
	name,
	...(neededMm3 === undefined ? {} : { neededMm3 })
});

describe('the choice of a foil', () => {
	test('a single foil serves every opening, and no thicker stock foil would (property)', () => {
		fc.assert(
			fc.property(fc.array(fc.tuple(side, side), { minLength: 1, maxLength: 12 }), (sizes) => {
				const list = sizes.map(([l, w], i) => opening(l, w, `R${i}`));
				const choice = chooseFoil(list);
				const works = (mm: number) => list.every((o) => forecastOpening(o, mm).result !== 'fail');
				if (choice.kind !== 'single') {
					expect(STOCK_FOILS_MM.some(works)).toBe(false);
					return;
				}
				expect(works(choice.foilMm!)).toBe(true);
				for (const mm of STOCK_FOILS_MM) if (mm > choice.foilMm! + 1e-9) expect(works(mm)).toBe(false);
			})
		);
	});

	test('a step is never deeper than allowed, and its edge keeps the distance of the rule (property)', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.22, max: 0.4, noNaN: true }), fc.double({ min: 0.1, max: 0.9, noNaN: true }), (d, need) => {
				const choice = chooseFoil([opening(d, d, 'U1'), opening(2, 1.4, 'J1', need * 0.42)]);
				if (choice.kind !== 'step') return;
				expect(choice.stepUm).toBeLessThanOrEqual(DEEPEST_STEP_UM);
				expect(choice.keepOutMm).toBeCloseTo(stepKeepOutMm(choice.stepUm), 9);
				expect(choice.inStep).toEqual([0]);
				expect(forecastOpening(opening(2, 1.4, 'J1'), choice.foilMm!).deliveredNl / 1000).toBeGreaterThanOrEqual(need * 0.42 - 1e-9);
			})
		);
	});

	test('where nothing works the ways out say by how much', () => {
		const choice = chooseFoil([opening(0.2, 0.2, 'U1'), opening(2, 1.4, 'J1', 0.41)]);
		expect(choice.kind).toBe('none');
		expect(choice.verdict.statement).toContain('U1');
		expect(choice.alternatives.find((a) => a.what.startsWith('Enlarge'))!.how).toMatch(/by \d+ % in each direction/);
		expect(() => chooseFoil([])).toThrow('openings');
	});

	test('more small openings mean more pads expected short; a coated foil means fewer', () => {
		const small = Array.from({ length: 40 }, (_, i) => ({ ...opening(0.25, 0.25, `U${i}`), lowPct: 60 }));
		expect(expectedShortPads(small, 0.1, 'laser')).toBeGreaterThan(expectedShortPads(small.slice(0, 10), 0.1, 'laser'));
		expect(expectedShortPads(small, 0.1, 'nanoCoated')).toBeLessThan(expectedShortPads(small, 0.1, 'laser'));
	});
});

describe('the transfer curve', () => {
	test('it rises with the area ratio and never passes its top (property)', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.2, max: 3, noNaN: true }), fc.double({ min: 0.01, max: 0.5, noNaN: true }), (ar, more) => {
				expect(transferEfficiency(ar + more)).toBeGreaterThanOrEqual(transferEfficiency(ar));
				expect(transferEfficiency(ar)).toBeLessThanOrEqual(DEFAULT_TRANSFER.teMax);
			})
		);
	});

	test('the turning point is a maximum of what is delivered', () => {
		const turning = turningAreaRatio()!;
		const delivered = (ar: number) => transferEfficiency(ar) / ar;
		expect(delivered(turning)).toBeGreaterThan(delivered(turning * 1.02));
		expect(delivered(turning)).toBeGreaterThan(delivered(turning * 0.98));
	});

	test('a curve is found again from its own values (property)', () => {
		const model = fc.record({
			teMax: fc.double({ min: 0.95, max: 1.2, noNaN: true }),
			k: fc.double({ min: 5, max: 12, noNaN: true }),
			a0: fc.double({ min: 0.4, max: 0.55, noNaN: true })
		});
		fc.assert(
			fc.property(model, (m) => {
				const groups = Array.from({ length: 14 }, (_, i) => ({
					areaRatio: 0.4 + i * 0.1,
					efficiency: transferEfficiency(0.4 + i * 0.1, m),
					pads: 50
				}));
				const fit = fitTransfer(groups).model;
				expect(fit.teMax).toBeCloseTo(m.teMax, 3);
				expect(fit.k).toBeCloseTo(m.k, 2);
				expect(fit.a0).toBeCloseTo(m.a0, 3);
			}),
			{ numRuns: 30 }
		);
		expect(() => fitTransfer([])).toThrow('groups');
		expect(() => fitTransfer([{ areaRatio: 0.6, efficiency: 7, pads: 1 }])).toThrow('groups[0].efficiency');
	});
});

describe('windows', () => {
	test('the web that is found gives the coverage that was asked for (property)', () => {
		const size = fc.double({ min: 2, max: 8, noNaN: true });
		const count = fc.integer({ min: 1, max: 5 });
		fc.assert(
			fc.property(size, size, count, count, fc.double({ min: 0.4, max: 0.8, noNaN: true }), (x, y, columns, rows, coverage) => {
				const pane = paneForCoverage(x, y, 0.1, columns, rows, coverage);
				if (!pane || columns * rows === 1) return;
				expect(paneFromWeb(x, y, 0.1, columns, rows, pane.webMm).coverage).toBeCloseTo(coverage, 6);
				for (const w of paneWindows(pane, 0.1)) {
					expect(w.x + w.widthMm).toBeLessThanOrEqual(x - 0.1 + 1e-9);
					expect(w.y + w.heightMm).toBeLessThanOrEqual(y - 0.1 + 1e-9);
				}
			})
		);
	});

	test('suggestions keep to the usual webs and windows', () => {
		const panes = windowPanes(5, 5);
		expect(panes.length).toBeGreaterThan(0);
		for (const p of panes) {
			expect(p.webMm).toBeGreaterThanOrEqual(0.2 - 1e-9);
			expect(Math.max(p.windowXMm, p.windowYMm)).toBeLessThanOrEqual(2 + 1e-9);
		}
		expect(() => paneFromWeb(2, 2, 0.1, 4, 4, 1)).toThrow('webMm');
	});

	test('a pin that fills its hole leaves no room for paste', () => {
		expect(() => pinInPaste(0.7, 0.5, 1.6, 0, 0.51)).toThrow('pinAreaMm2');
		expect(pinAreaMm2(0.7)).toBeCloseTo(0.3848, 4);
		expect(pinAreaMm2(0.6, 0.5)).toBeCloseTo(0.3, 9);
		const { metalMm3, pasteMm3 } = pinInPaste(1, 0.3848, 1.6, 0.25, 0.5);
		expect(pasteMm3).toBeCloseTo(2 * metalMm3, 9);
	});
});
