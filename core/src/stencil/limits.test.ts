import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
	AREA_RATIO_LIMIT,
	boardSideAreaMm2,
	forecastOpening,
	paneForCoverage,
	paneFromWeb,
	paneWindows,
	pinAreaMm2,
	pinInPaste,
	plantModel,
	DEFAULT_TRANSFER,
	WALLS,
	wallModel,
	windowPanes,
	type Opening
} from './index.ts';

const rectangle = (widthMm: number, lengthMm: number): Opening => ({
	areaMm2: widthMm * lengthMm,
	perimeterMm: 2 * (widthMm + lengthMm),
	widthMm,
	lengthMm
});

describe('both sides of the ratios', () => {
	/** A square whose area ratio on 0.1 mm is that: side/4/foil. */
	const square = (areaRatio: number) => rectangle(0.4 * areaRatio, 0.4 * areaRatio);
	const slot = (aspect: number) => rectangle(0.1 * aspect, 5);

	test.each([
		[0.6599, 'fail'],
		[0.66, 'marginal'],
		[0.6899, 'marginal'],
		[0.6901, 'pass'],
		[0.8, 'pass']
	])('area ratio %f on laser-cut walls: %s', (ratio, result) => {
		const f = forecastOpening(square(ratio), 0.1);
		expect(f.areaRatio).toBeCloseTo(ratio, 12);
		expect([f.ruledBy, f.result]).toEqual(['area', result]);
		expect(f.below.includes('area')).toBe(ratio < 0.66);
	});

	test.each([
		[1.499, 'fail'],
		[1.5, 'marginal'],
		[1.5299, 'marginal'],
		[1.5301, 'pass']
	])('aspect ratio %f of a slot: %s', (aspect, result) => {
		const f = forecastOpening(slot(aspect), 0.1);
		expect([f.ruledBy, f.result]).toEqual(['aspect', result]);
		expect(f.below.includes('aspect')).toBe(aspect < 1.5);
	});

	test('five widths long is ruled by its area, a hair longer by its aspect', () => {
		expect(forecastOpening(rectangle(0.25, 1.25), 0.1).ruledBy).toBe('area');
		expect(forecastOpening(rectangle(0.25, 1.2501), 0.1).ruledBy).toBe('aspect');
	});

	test.each(WALLS)('%s: its own limit is met exactly at its thickest foil', (wall) => {
		const opening = rectangle(0.3, 0.4);
		const { thickestMm } = forecastOpening(opening, 0.1, wall);
		expect(thickestMm).toBeCloseTo(opening.areaMm2 / (opening.perimeterMm * AREA_RATIO_LIMIT[wall].limit), 12);
		expect(forecastOpening(opening, thickestMm, wall).result).toBe('marginal');
		expect(forecastOpening(opening, thickestMm * 1.001, wall).result).toBe('fail');
	});

	test('the foil: 0.03 to 0.30 mm, and µm typed as mm are said to be that', () => {
		const at = (foilMm: number) => () => forecastOpening(rectangle(0.3, 0.4), foilMm);
		expect(at(0.03)).not.toThrow();
		expect(at(0.3)).not.toThrow();
		expect(at(0.0299)).toThrow('foilMm');
		expect(at(0.3001)).toThrow('foilMm');
		expect(at(30)).toThrow('30 µm are 0.03 mm');
		expect(at(300)).toThrow('300 µm are 0.3 mm');
		expect(at(301)).not.toThrow('µm typed');
	});
});

describe('volumes', () => {
	test('area times foil, the mean of both sides where the walls taper', () => {
		const opening = rectangle(0.5, 1);
		expect(forecastOpening(opening, 0.1).volumeNl).toBeCloseTo(50, 12);
		expect(forecastOpening({ ...opening, boardSideAreaMm2: 0.52 }, 0.1).volumeNl).toBeCloseTo(51, 12);
		expect(forecastOpening({ ...opening, transferFactor: 0.9 }, 0.1).deliveredNl).toBeCloseTo(
			0.9 * forecastOpening(opening, 0.1).deliveredNl,
			12
		);
		expect(() => forecastOpening({ ...opening, boardSideAreaMm2: 0 }, 0.1)).toThrow('boardSideAreaMm2');
	});

	test('a taper moves the outline out by half of it, with round corners', () => {
		// 0.5 mm² and 3 mm round, 4 µm out: 0.5 + 3·0.004 + π·0.004².
		expect(boardSideAreaMm2({ areaMm2: 0.5, perimeterMm: 3 }, 8)).toBeCloseTo(0.5 + 0.012 + Math.PI * 0.000016, 12);
		expect(boardSideAreaMm2({ areaMm2: 0.5, perimeterMm: 3 }, 0)).toBe(0.5);
		expect(() => boardSideAreaMm2({ areaMm2: 0.5, perimeterMm: 3 }, 30)).not.toThrow();
		expect(() => boardSideAreaMm2({ areaMm2: 0.5, perimeterMm: 3 }, 30.1)).toThrow('taperUm');
	});

	test('a coating moves the curve by 0.06, and what was fitted on it comes back as the plant’s', () => {
		expect(wallModel('nanoCoated').a0).toBeCloseTo(DEFAULT_TRANSFER.a0 - 0.06, 12);
		expect(wallModel('laser')).toEqual(DEFAULT_TRANSFER);
		for (const wall of WALLS) expect(plantModel(wall, wallModel(wall)).a0).toBeCloseTo(DEFAULT_TRANSFER.a0, 12);
	});
});

describe('windows over a thermal pad', () => {
	test('two by two with a web of 0.3 mm on 5 mm: 2.25 mm each, 81 % open', () => {
		expect(paneFromWeb(5, 5, 0.1, 2, 2, 0.3)).toMatchObject({ windowXMm: 2.25, windowYMm: 2.25 });
		expect(paneFromWeb(5, 5, 0.1, 2, 2, 0.3).coverage).toBeCloseTo(0.81, 12);
		expect(() => paneFromWeb(5, 5, 0.1, 2, 2, 4.8)).toThrow('a web that leaves room');
		expect(paneFromWeb(5, 5, 0.1, 2, 2, 4.79).windowXMm).toBeCloseTo(0.005, 12);
	});

	test('the web for a coverage gives that coverage back, and the windows lie apart inside the margin (property)', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 2, max: 12, noNaN: true }),
				fc.double({ min: 2, max: 12, noNaN: true }),
				fc.integer({ min: 1, max: 5 }),
				fc.integer({ min: 1, max: 5 }),
				fc.double({ min: 0.2, max: 0.8, noNaN: true }),
				(x, y, columns, rows, coverage) => {
					const pane = paneForCoverage(x, y, 0.1, columns, rows, coverage);
					if (!pane) return;
					if (columns * rows > 1) expect(paneFromWeb(x, y, 0.1, columns, rows, pane.webMm).coverage).toBeCloseTo(coverage, 6);
					const windows = paneWindows(pane, 0.1);
					expect(windows).toHaveLength(columns * rows);
					for (const w of windows) {
						expect(w.x).toBeGreaterThanOrEqual(0.1 - 1e-9);
						if (columns * rows > 1) expect(w.x + w.widthMm).toBeLessThanOrEqual(x - 0.1 + 1e-9);
					}
				}
			)
		);
	});

	test('one window gives at most what the margin leaves; more than that is not to be had', () => {
		expect(paneForCoverage(2, 2, 0.1, 1, 1, 0.81)).not.toBeNull();
		expect(paneForCoverage(2, 2, 0.1, 1, 1, 0.82)).toBeNull();
		expect(paneForCoverage(2, 2, 0.1, 2, 2, 0.82)).toBeNull();
		expect(() => paneForCoverage(2, 2, 0.1, 2, 2, 0.96)).toThrow('coverage');
		expect(() => paneForCoverage(0.4, 2, 0.1, 2, 2, 0.5)).toThrow('padXMm');
	});

	test('what is suggested has webs of 0.2 mm or more and windows of 0.6 to 2 mm', () => {
		const all = [3, 5, 7.5, 10].flatMap((mm) => windowPanes(mm, mm));
		expect(all.length).toBeGreaterThan(4);
		for (const p of all) {
			if (p.columns * p.rows > 1) expect(p.webMm).toBeGreaterThanOrEqual(0.2 - 1e-9);
			for (const mm of [p.windowXMm, p.windowYMm]) {
				expect(mm).toBeGreaterThanOrEqual(0.6 - 1e-9);
				expect(mm).toBeLessThanOrEqual(2 + 1e-9);
			}
		}
		expect(windowPanes(5, 5)[0]!.columns).toBe(windowPanes(5, 5)[0]!.rows);
	});
});

describe('pin in paste', () => {
	test('metal fills what the pin leaves of the hole, and the fillets; paste is twice that at half metal', () => {
		const pin = pinAreaMm2(0.6);
		expect(pin).toBeCloseTo(Math.PI * 0.09, 12);
		expect(pinAreaMm2(0.6, 0.5)).toBeCloseTo(0.3, 12);
		const { metalMm3, pasteMm3 } = pinInPaste(1, pin, 1.6, 0.2, 0.5);
		expect(metalMm3).toBeCloseTo(1.6 * Math.PI * (0.25 - 0.09) + 0.2, 12);
		expect(pasteMm3).toBeCloseTo(2 * metalMm3, 12);
	});

	test('a pin as large as its hole, a negative fillet and a share beyond any paste are refused', () => {
		expect(() => pinInPaste(1, Math.PI / 4, 1.6, 0, 0.5)).toThrow('pinAreaMm2');
		expect(() => pinInPaste(1, 0.3, 1.6, -0.01, 0.5)).toThrow('filletsMm3');
		expect(() => pinInPaste(1, 0.3, 1.6, 0, 0.71)).toThrow('metalShare');
		expect(() => pinInPaste(1, 0.3, 0.1, 0, 0.5)).toThrow('boardMm');
		expect(() => pinInPaste(1, 0.3, 0.2, 0, 0.7)).not.toThrow();
	});
});
