import { describe, expect, test } from 'vitest';
import { cpk, ewmaChart, individualsChart, offsetCorrection } from '@keen-relay/core/control';
import {
	beadDiameterMm,
	beadG,
	beadResidence,
	dewPointC,
	jarStatus,
	narrowestUm,
	panelsToTopUp,
	pasteDensity,
	POWDERS,
	suggestPowder,
	warmUp,
	type JarEvent
} from '@keen-relay/core/paste';
import { bladeForceN, printTime, startingPrintRecipe, strokeS, wipeCosts, wipeInterval, wipeSPerPanel } from '@keen-relay/core/printing';
import {
	chooseFoil,
	fitTransfer,
	forecastOpening,
	groupFactor,
	measureShape,
	paneForCoverage,
	paneFromWeb,
	pinInPaste,
	turningAreaRatio,
	type OpeningShape
} from '@keen-relay/core/stencil';
import { MM_PER } from '@keen-relay/core/units';

// Values without a source beside them were computed apart from this code; 0.1 % or the last digit.
const near = (value: number, expected: number, share = 0.001) =>
	expect(Math.abs(value / expected - 1), `${value} for ${expected}`).toBeLessThan(share);

describe('openings', () => {
	test.each<[string, OpeningShape, Partial<Record<'areaMm2' | 'perimeterMm' | 'widthMm', number>>]>([
		['oblong', { kind: 'oblong', lengthMm: 0.3, widthMm: 2 }, { areaMm2: 0.58069, perimeterMm: 4.34248, widthMm: 0.3 }],
		[
			'rounded square',
			{ kind: 'roundedRectangle', lengthMm: 0.4, widthMm: 0.4, radiusMm: 0.1 },
			{ areaMm2: 0.15142, perimeterMm: 1.42832 }
		],
		[
			'home plate',
			{ kind: 'homePlate', lengthMm: 0.7, widthMm: 0.6, pointMm: 0.25 },
			{ areaMm2: 0.345, perimeterMm: 2.28102, widthMm: 0.6 }
		]
	])('%s', (_, shape, expected) => {
		const m = measureShape(shape);
		for (const [key, value] of Object.entries(expected)) near(m[key as 'areaMm2'], value);
	});

	test('square and circle of one size have the same area ratio; the square holds 4/π as much', () => {
		const [square, circle] = [measureShape({ kind: 'square', sizeMm: 0.3 }), measureShape({ kind: 'circle', sizeMm: 0.3 })];
		near(forecastOpening(square, 0.1).areaRatio, forecastOpening(circle, 0.1).areaRatio, 1e-12);
		near(square.areaMm2 / circle.areaMm2, 1.2732);
	});

	test('what cannot be cut is refused by the aperture’s name', () => {
		const bow = [
			{ x: 0, y: 0 },
			{ x: 1, y: 1 },
			{ x: 1, y: 0 },
			{ x: 0, y: 1 }
		];
		expect(() => measureShape({ kind: 'polygon', outline: bow }, 'U7 pin 3')).toThrow('U7 pin 3.outline');
		expect(() => measureShape({ kind: 'polygon', outline: bow, holes: [bow] }, 'U7 pin 3')).toThrow('island');
		expect(() => measureShape({ kind: 'circle', sizeMm: 300 }, 'U7 pin 3')).toThrow('U7 pin 3.sizeMm');
		expect(() => measureShape({ kind: 'polygon', outline: [{ x: 0, y: NaN }, ...bow] })).toThrow('two numbers');
		const line = [0, 1, 2, 2].map((x) => ({ x, y: 0 }));
		expect(() => measureShape({ kind: 'polygon', outline: line })).toThrow('at least three corners');
	});

	test('10 nL is 610.24 mil³; 1 mm³ is 61 024 mil³', () => {
		near(0.01 / MM_PER.mil ** 3, 610.24, 1e-5);
		near(1 / MM_PER.mil ** 3, 61_024, 1e-5);
	});

	// IPC-7525: when the length is over five widths the aspect ratio rules (value from memory).
	test('both ratios are checked and the failing one is named', () => {
		const slot = forecastOpening(measureShape({ kind: 'rectangle', lengthMm: 50 * MM_PER.mil, widthMm: 7 * MM_PER.mil }), 5 * MM_PER.mil);
		expect(slot).toMatchObject({ ruledBy: 'aspect', result: 'fail', below: ['area', 'aspect'] });
	});
});

describe('transfer', () => {
	const AR = [0.45, 0.5, 0.55, 0.6, 0.65, 0.7, 0.8, 1, 1.5];
	const TE = [0.455, 0.552, 0.637, 0.722, 0.786, 0.845, 0.915, 0.982, 1];
	const groups = AR.map((areaRatio, i) => ({ areaRatio, efficiency: TE[i]!, pads: 100 }));

	test('the fit', () => {
		const { model, identifiable } = fitTransfer(groups);
		expect(identifiable).toBe(true);
		expect(model.teMax).toBeCloseTo(1.0002, 3);
		expect(Math.abs(model.k - 7.415)).toBeLessThan(0.02);
		expect(model.a0).toBeCloseTo(0.4733, 4);
	});

	test('large openings alone cannot show the fall: place and slope are kept', () => {
		const fit = fitTransfer(groups.slice(6));
		expect(fit).toMatchObject({ identifiable: false, model: { k: 7.4, a0: 0.473 } });
		expect(fit.statement).toContain('Not identifiable');
	});

	test('a unit that reads the gap above the mask as paste gives a TEmax above 1', () => {
		near(fitTransfer(groups.map((g) => ({ ...g, efficiency: g.efficiency * 1.12 }))).model.teMax, 1.12, 0.01);
	});

	test('the turning point of the defaults, and the foil at which a 0.25 mm circle delivers most', () => {
		expect(turningAreaRatio()).toBeCloseTo(0.655, 3);
		const circle = measureShape({ kind: 'circle', sizeMm: 0.25 });
		let best = { foil: 0, nl: 0 };
		for (let foil = 0.08; foil < 0.15; foil += 0.0001) {
			const nl = forecastOpening(circle, foil).deliveredNl;
			if (nl > best.nl) best = { foil, nl };
		}
		near(best.foil, 0.0954, 0.003);
		near(best.nl, 3.717);
	});

	test('few pads hardly move a group off the plant’s curve', () => {
		const one = [{ areaRatio: 0.66, efficiency: 0.9, pads: 20 }];
		const many = [{ areaRatio: 0.66, efficiency: 0.9, pads: 20_000 }];
		const model = { teMax: 1, k: 7.4, a0: 0.473 };
		expect(groupFactor(one, model)).toBeLessThan(1.02);
		expect(groupFactor(many, model)).toBeGreaterThan(1.12);
	});
});

describe('foil', () => {
	const opening = (shape: OpeningShape, name: string, neededMm3 = 0) => ({
		...measureShape(shape),
		name,
		...(neededMm3 ? { neededMm3 } : {})
	});
	const circle = (d: number) => opening({ kind: 'circle', sizeMm: d }, 'U1 pin A1');
	const pad = (l: number, w: number, needed: number) => opening({ kind: 'rectangle', lengthMm: l, widthMm: w }, 'J1 pin 1', needed);

	test('one foil, a step, and neither', () => {
		const single = chooseFoil([circle(0.3), pad(2, 1.2, 0.22)]);
		expect(single).toMatchObject({ kind: 'single', foilMm: 0.1, worst: { name: 'U1 pin A1' } });
		near(single.worst!.thickestMm, 0.1136);
		const step = chooseFoil([circle(0.3), pad(2, 1.2, 0.25)]);
		expect(step).toMatchObject({ kind: 'step', foilMm: 0.12, stepMm: 0.1, inStep: [0] });
		near(step.keepOutMm!, 1.37);
		const other = chooseFoil([circle(0.27), pad(2, 1.4, 0.34)]);
		expect(other).toMatchObject({ kind: 'step', foilMm: 0.127, stepMm: 0.1 });
		near(other.keepOutMm!, 1.622);
		const none = chooseFoil([circle(0.23), pad(2, 1.4, 0.41)]);
		expect(none.kind).toBe('none');
		expect(none.alternatives.map((a) => a.what)).toEqual(['Enlarge the large openings', 'Coat the foil', 'Split the job']);
	});

	test('windows', () => {
		const two = paneForCoverage(4.6, 4.6, 0.1, 2, 2, 0.6)!;
		near(two.webMm, 0.8369);
		near(two.windowXMm, 1.7816);
		const three = paneFromWeb(5, 5, 0.1, 3, 3, 0.3);
		near(three.windowXMm, 1.4);
		near(three.coverage, 0.7056);
	});

	test('pin in paste', () => {
		const { metalMm3, pasteMm3 } = pinInPaste(1, (Math.PI * 0.7 ** 2) / 4, 1.6, 0.25, 0.51);
		near(metalMm3, 0.8909);
		near(pasteMm3, 1.7468);
	});
});

describe('paste', () => {
	// J-STD-005 powder ranges, values from memory.
	test('powder ranges and the narrowest openings that follow', () => {
		expect(POWDERS.map((p) => [p.lowUm, p.highUm])).toEqual([
			[25, 45],
			[20, 38],
			[15, 25],
			[5, 15]
		]);
		expect(POWDERS.map((p) => narrowestUm(p.type, 'slot'))).toEqual([225, 190, 125, 75]);
		expect(POWDERS.map((p) => narrowestUm(p.type, 'circle', 'eight'))).toEqual([360, 304, 200, 120]);
		expect(suggestPowder(140)).toBe('T5');
	});

	test('density, dew point, warm-up', () => {
		near(pasteDensity().pasteGPerCm3, 4.2627, 1e-4);
		near(pasteDensity().metalShare, 0.50979, 1e-4);
		expect(dewPointC(25, 55)).toBeCloseTo(15.33, 2);
		const w = warmUp(5, 23, 20);
		expect(w.physicsH).toBeCloseTo(1.792, 3);
		expect(w.gateH).toBe(4);
	});

	test('a jar at its hour', () => {
		const at = (clock: string) => Date.parse(`2026-05-11T${clock}:00Z`);
		const jar = {
			id: 'J17',
			lot: 'L',
			paste: 'P',
			receivedMs: at('00:00') - 1e9,
			expiryMs: Date.parse('2026-05-31T22:00:00Z'),
			grams: 500
		};
		const events = (opened: string): JarEvent[] => [
			{ id: 1, kind: 'store_cold', atMs: jar.receivedMs },
			{ id: 2, kind: 'take_out', atMs: at('05:00') },
			{ id: 3, kind: 'open', atMs: at(opened), stirred: true },
			{ id: 4, kind: 'load_stencil', atMs: at('09:30') }
		];
		expect(jarStatus(jar, events('09:15'), at('13:30'))).toMatchObject({ state: 'on_stencil', governing: 'stencil_life', remainingH: 4 });
		expect(jarStatus(jar, events('07:00'), at('13:30'))).toMatchObject({ state: 'quarantined', quarantine: ['open_before_warm'] });
	});

	test('the bead', () => {
		near(beadG(16, 240), 205.7);
		near(beadG(12, 240), 115.7);
		expect(panelsToTopUp(beadG(16, 240), beadG(12, 240), 0.75)).toBe(119);
		near(beadDiameterMm(150, 240), 13.66);
		const { meanAgeH, olderShare } = beadResidence(200, 0.15, 60, 8);
		near(meanAgeH, 22.22);
		near(olderShare, 0.698);
	});
});

describe('printer', () => {
	test('stroke, cycle, wipes, force', () => {
		near(strokeS(280, 40, 200), 7.2);
		// A stroke too short for its speed is a triangle: two ramps of √(s/a).
		near(strokeS(2, 40, 200), 0.2);
		const recipe = { ...startingPrintRecipe(180, null), wipes: [] };
		near(printTime(recipe, { acrossMm: 180, alongMm: 280 - 52 }).cycleS, 8 + 2 + 7.2 + 1);
		const wipes = [
			{ kind: 'dry' as const, everyPrints: 5, seconds: 10 },
			{ kind: 'wetVacuum' as const, everyPrints: 10, seconds: 25 }
		];
		near(wipeSPerPanel(wipes, true), 3.5);
		near(wipeSPerPanel(wipes, false), 4.5);
		near(bladeForceN(0.2, 200), 39.2);
	});

	test('wipe interval from the drift', () => {
		const y = [
			[92.1, 91.0, 90.3, 89.2, 88.4, 87.1, 86.5, 85.2],
			[91.6, 91.3, 89.8, 89.5, 88.0, 87.6, 86.1, 85.6],
			[92.4, 90.7, 90.1, 89.0, 88.6, 87.3, 86.4, 85.5]
		];
		const advice = wipeInterval(
			y.flatMap((row) => row.map((meanPct, sinceWipe) => ({ sinceWipe, meanPct }))),
			4,
			60
		);
		expect(advice.a).toBeCloseTo(91.997, 3);
		expect(advice.b).toBeCloseTo(-0.9361, 4);
		expect(advice.standardError).toBeCloseTo(0.0217, 4);
		expect(advice.bLow).toBeCloseTo(-0.9734, 4);
		expect(advice).toMatchObject({ allows: 21, observed: 8, offer: 16 });
	});

	test('wipe interval by cost', () => {
		const { best, costs } = wipeCosts(18, 0.015, 0.5, [{ pads: 480, mean: 88, sigma: 6.5, slope: -0.6, lowestPct: 60 }]);
		expect(best).toBe(9);
		near(costs[8]!, 0.04492);
		near(costs[4]!, 0.05919);
		near(costs[19]!, 0.2669);
	});
});

describe('charts', () => {
	test('Cpk with its lower bound', () => {
		const c = cpk(93, 9, 60, 140, 120);
		expect(c.cpk).toBeCloseTo(1.222, 3);
		expect(c.cpkLower).toBeCloseTo(1.083, 3);
	});

	// NIST/SEMATECH e-Handbook of Statistical Methods, EWMA example (from memory, recomputed).
	test('the handbook’s EWMA example', () => {
		const x = [52, 47, 53, 49.3, 50.1, 47, 51, 50.1, 51.2, 50.5, 49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1];
		const { points, finalReach, beyond } = ewmaChart(x, 50, 2.0539, 0.3, 3);
		expect([points[0]!, points[1]!, points[19]!].map((v) => Number(v.toFixed(2)))).toEqual([50.6, 49.52, 51.99]);
		expect(50 + finalReach).toBeCloseTo(52.588, 3);
		expect(beyond).toEqual([]);
	});

	// The same handbook, individuals chart (from memory).
	test('the handbook’s individuals chart', () => {
		const chart = individualsChart([49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1]);
		expect(chart.centre).toBeCloseTo(50.81, 2);
		expect(chart.meanMovingRange).toBeCloseTo(1.878, 3);
		expect([chart.lower, chart.upper].map((v) => Number(v.toFixed(2)))).toEqual([45.82, 55.8].map((v) => expect.closeTo(v, 1)));
	});

	test('full correction of noise raises its spread by 41 %, λ = 0.3 by 8 %', () => {
		expect(offsetCorrection([], 1).noiseSdFactor).toBeCloseTo(1.414, 3);
		expect(offsetCorrection([], 0.3).noiseSdFactor).toBeCloseTo(1.085, 3);
		expect(
			offsetCorrection([
				{ offsetUm: 32, stroke: 'F' },
				{ offsetUm: 28, stroke: 'F' },
				{ offsetUm: 10, stroke: 'R' }
			])
		).toMatchObject({ meanUm: 20, correctionUm: -6 });
	});
});
