import { describe, expect, it, test } from 'vitest';
import {
	applyRules,
	asMade,
	boardSideAreaMm2,
	checkStencil,
	chooseFoil,
	DEFAULT_TRANSFER,
	deliveredByFoil,
	deliveredMm3,
	expectedShortPads,
	fitTransfer,
	foilAlternatives,
	hardestOpenings,
	judgeLongOpenings,
	forecastOpening,
	judgeWebs,
	plantModel,
	ruleEffects,
	shapeFactors,
	STENCIL_RULES,
	STOCK_FOILS_MM,
	transferEfficiency,
	WALLS,
	wallModel,
	websOf,
	type LayerOpening
} from './index.ts';

const circle = (d: number, name = 'U1 pin A1') => ({
	name,
	areaMm2: (Math.PI * d * d) / 4,
	perimeterMm: Math.PI * d,
	widthMm: d,
	lengthMm: d
});
const rect = (l: number, w: number, name = 'J1 pin 1') => ({ name, areaMm2: l * w, perimeterMm: 2 * (l + w), widthMm: w, lengthMm: l });

describe('what one opening delivers', () => {
	it('takes the mean of both areas where the walls taper', () => {
		const straight = forecastOpening(rect(1, 0.5), 0.1);
		const tapered = forecastOpening({ ...rect(1, 0.5), boardSideAreaMm2: 0.53 }, 0.1);
		expect(straight.volumeNl).toBeCloseTo(50, 9);
		expect(tapered.volumeNl).toBeCloseTo(51.5, 9);
		// The walls that hold the paste are what they were: the ratio does not move.
		expect(tapered.areaRatio).toBe(straight.areaRatio);
		expect(() => forecastOpening({ ...rect(1, 0.5), boardSideAreaMm2: 0 }, 0.1)).toThrow('boardSideAreaMm2');
	});

	it('multiplies by the factor of its shape', () => {
		const plain = forecastOpening(circle(0.3), 0.1);
		const own = forecastOpening({ ...circle(0.3), transferFactor: 1.1 }, 0.1);
		expect(own.deliveredNl).toBeCloseTo(1.1 * plain.deliveredNl, 9);
		expect(expectedShortPads([{ ...circle(0.3), transferFactor: 1.1, lowPct: 60 }], 0.1, 'laser')).toBeLessThan(
			expectedShortPads([{ ...circle(0.3), lowPct: 60 }], 0.1, 'laser')
		);
	});

	it('is drawn over the foil only where area ratios were measured', () => {
		// Area ratios of a 0.25 mm circle: 0.78 at 80 µm, 0.625 at 100, 0.42 at 150.
		const nl = deliveredByFoil(circle(0.25), [0.08, 0.1, 0.12, 0.15], 'laser', DEFAULT_TRANSFER, { from: 0.6, to: 1 });
		expect(nl[0]).toBeCloseTo(3.563, 3);
		expect(nl[1]).toBeCloseTo(3.706, 2);
		expect(nl.slice(2)).toEqual([null, null]);
		expect(deliveredByFoil(circle(0.25), [0.1], 'laser', DEFAULT_TRANSFER, null)).toEqual([null]);
	});
});

describe('factors by shape', () => {
	const at = (shape: string, ratio: number, pads: number) =>
		[0.6, 0.8, 1.2].map((areaRatio) => ({ shape, areaRatio, efficiency: ratio * transferEfficiency(areaRatio), pads }));

	it('finds what a shape delivers beside the curve, and believes it as far as its pads go', () => {
		const [many, few] = shapeFactors([...at('circle', 0.9, 10), ...at('rectangle', 1.1, 3000)], DEFAULT_TRANSFER);
		expect(many).toMatchObject({ shape: 'rectangle', pads: 9000 });
		expect(many!.factor).toBeCloseTo(1 + (0.1 * 9000) / 9200, 6);
		expect(few!.factor).toBeCloseTo(1 - (0.1 * 30) / 230, 6);
	});

	it('takes a coating out of a fit before it is the plant’s', () => {
		const coated = wallModel('nanoCoated', DEFAULT_TRANSFER);
		expect(plantModel('nanoCoated', coated)).toEqual(DEFAULT_TRANSFER);
		expect(plantModel('laser', DEFAULT_TRANSFER)).toEqual(DEFAULT_TRANSFER);
	});

	it('does not count one size in two shapes as two sizes', () => {
		const two = ['circle', 'rectangle'].flatMap((shape) => at(shape, 1, 50)).filter((g) => g.areaRatio < 1);
		expect(two).toHaveLength(4);
		expect(fitTransfer(two).identifiable).toBe(false);
		expect(fitTransfer(two).statement).toContain('2 sizes');
	});
});

describe('ways to make the stencil', () => {
	it('has every foil with every wall, and says which work', () => {
		const openings = [
			{ ...circle(0.3), lowPct: 60 },
			{ ...rect(2, 1.2), lowPct: 60, neededMm3: 0.22 }
		];
		const all = foilAlternatives(() => openings);
		for (const wall of WALLS) expect(all.filter((a) => a.wall === wall && a.stepMm === null)).toHaveLength(STOCK_FOILS_MM.length);
		// A plain laser wall: 100 µm is the one that serves both.
		expect(all.filter((a) => a.wall === 'laser' && a.works).map((a) => a.foilMm)).toEqual([0.1]);
		const by = (foilMm: number) => all.find((a) => a.wall === 'laser' && a.foilMm === foilMm)!.shortPads;
		expect(by(0.15)).toBeGreaterThan(10 * by(0.1));
	});

	it('counts the openings in a step at the thinner foil', () => {
		const openings = [
			{ ...circle(0.3), lowPct: 60 },
			{ ...rect(2, 1.2), lowPct: 60, neededMm3: 0.25 }
		];
		expect(chooseFoil(openings)).toMatchObject({ kind: 'step', foilMm: 0.12, stepMm: 0.1 });
		const step = foilAlternatives(() => openings).find((a) => a.wall === 'laser' && a.stepMm !== null)!;
		expect(step).toMatchObject({ foilMm: 0.12, stepMm: 0.1, works: true });
		expect(step.shortPads).toBeCloseTo(
			expectedShortPads([openings[0]!], 0.1, 'laser') + expectedShortPads([openings[1]!], 0.12, 'laser'),
			9
		);
	});
});

const square = (x: number, y: number, side: number, refDes: string): LayerOpening => ({
	outline: [
		{ x, y },
		{ x: x + side, y },
		{ x: x + side, y: y + side },
		{ x, y: y + side }
	],
	centre: { x: x + side / 2, y: y + side / 2 },
	shape: 'rectangle',
	areaMm2: side * side,
	perimeterMm: 4 * side,
	widthMm: side,
	lengthMm: side,
	refDes,
	pin: null,
	padClass: 'chip'
});

describe('webs of a foil', () => {
	it('names the thinnest pair and says what to do', () => {
		const row = [square(0, 0, 0.5, 'R1'), square(0.62, 0, 0.5, 'R2'), square(2, 0, 0.5, 'R3')];
		const { results, verdict } = judgeWebs(websOf(row), 0.12, (i) => row[i]!.refDes!);
		expect(results).toEqual(['fail', 'fail', 'pass']);
		expect(verdict.level).toBe('act');
		expect(verdict.statement).toBe('2 webs of foil are too thin: R1 and R2, 0.120 mm.');
		expect(judgeWebs(websOf([row[0]!, row[2]!]), 0.12, () => '').verdict.level).toBe('good');
		const close = [square(0, 0, 0.5, 'R1'), square(0.67, 0, 0.5, 'R2')];
		expect(judgeWebs(websOf(close), 0.12, () => 'R').verdict.level).toBe('watch');
		// A thicker foil asks for a wider web.
		expect(judgeWebs(websOf(close), 0.15, () => 'R').verdict.level).toBe('act');
	});
});

describe('what the rules do', () => {
	it('takes over what was cut before where a rule has not changed, and cuts the rest anew', () => {
		const layer = [square(0, 0, 0.5, 'R1'), { ...square(9, 0, 4, 'U1'), padClass: 'thermal' as const }, square(5, 0, 0.3, 'R2')];
		const windows = { kind: 'windows' as const, coverage: 0.6, marginMm: 0.1, overMm: 3 };
		const first = { ...STENCIL_RULES, chip: { kind: 'asDrawn' as const }, thermal: windows };
		const second = { ...first, chip: { kind: 'reduce' as const, widthPct: 10, lengthPct: 10 } };
		const before = { rules: first, cut: applyRules(layer, first) };
		const again = applyRules(layer, second, before);
		expect(again).toEqual(applyRules(layer, second));
		expect(again.find((o) => o.from === 1)).toBe(before.cut.find((o) => o.from === 1));
		expect(applyRules(layer, first, { rules: second, cut: again })).toEqual(before.cut);
	});

	it('compares the opening that is hardest to release, as drawn and as cut', () => {
		const layer = [square(0, 0, 0.5, 'R1'), square(5, 0, 0.3, 'R2'), { ...square(9, 0, 4, 'U1'), padClass: 'thermal' as const }];
		const rules = {
			...STENCIL_RULES,
			chip: { kind: 'reduce' as const, widthPct: 10, lengthPct: 10 },
			thermal: { kind: 'windows' as const, coverage: 0.6, marginMm: 0.1, overMm: 3 }
		};
		const effects = ruleEffects(layer, applyRules(layer, rules), 0.1, 'laser', DEFAULT_TRANSFER);
		const chip = effects.find((e) => e.padClass === 'chip')!;
		expect(chip.opening).toBe(1);
		expect(chip.cutNl).toBeLessThan(0.81 * chip.drawnNl);
		expect(chip.cutCvPct).toBeGreaterThan(chip.drawnCvPct);
		const thermal = effects.find((e) => e.padClass === 'thermal')!;
		// Windows of 60 %, each releasing nearly all of its paste.
		expect(thermal.cutNl / thermal.drawnNl).toBeGreaterThan(0.57);
		expect(thermal.cutNl / thermal.drawnNl).toBeLessThan(0.61);
	});
});

describe('walls that taper', () => {
	it('widen a rectangle and a circle as their sides say', () => {
		// 8 µm over the width: 1.008 x 0.508 mm with round corners, and a circle of 0.308 mm.
		expect(boardSideAreaMm2(rect(1, 0.5), 8)).toBeCloseTo(1.008 * 0.508, 4);
		expect(boardSideAreaMm2(circle(0.3), 8)).toBeCloseTo((Math.PI * 0.308 ** 2) / 4, 12);
		expect(boardSideAreaMm2(rect(1, 0.5), 0)).toBe(0.5);
		expect(() => boardSideAreaMm2(rect(1, 0.5), 80)).toThrow('taperUm');
	});

	it('hold and deliver more, the smallest openings most; walls that nobody measured count as straight', () => {
		const openings = [
			{ ...circle(0.25), shape: 'circle' },
			{ ...rect(2, 1), shape: 'rectangle' }
		];
		const straight = asMade(openings, { taperUm: null, factors: [] });
		const tapered = asMade(openings, { taperUm: 6, factors: [{ shape: 'circle', factor: 0.9, pads: 1000 }] });
		const share = tapered.map((o, i) => forecastOpening(o, 0.1).volumeNl / forecastOpening(straight[i]!, 0.1).volumeNl);
		expect(share[0]).toBeCloseTo((1 + (0.256 / 0.25) ** 2) / 2, 9);
		expect(share[1]).toBeCloseTo(1.0045, 4);
		expect(deliveredMm3(tapered, 0.1, 'laser')).toBeCloseTo(
			tapered.reduce((sum, o) => sum + forecastOpening(o, 0.1).deliveredNl, 0) / 1000,
			12
		);
		expect(tapered[0]!.transferFactor).toBe(0.9);
		expect(straight.map((o) => o.boardSideAreaMm2)).toEqual([undefined, undefined]);
		// An inspection unit's 100 % stay the opening as drawn: more paste, fewer pads short.
		const short = (made: typeof openings) => expectedShortPads([{ ...made[0]!, transferFactor: 1, lowPct: 60 }], 0.1, 'laser');
		expect(short(tapered)).toBeLessThan(short(straight));
	});

	it('leave the hardest openings in their order, one of each size, the picked one first', () => {
		const list = [rect(2, 1, 'large'), circle(0.25, 'a'), circle(0.25, 'b'), circle(0.3, 'c')];
		expect(hardestOpenings(list, 0.1, 'laser', DEFAULT_TRANSFER)).toEqual([1, 3, 0]);
		expect(hardestOpenings(list, 0.1, 'laser', DEFAULT_TRANSFER, 2)).toEqual([2, 3, 0]);
		expect(hardestOpenings(list, 0.1, 'laser', DEFAULT_TRANSFER, 9, 1)).toEqual([1]);
	});
});

test('an opening over 3 mm in one piece may be scooped: it is named; 3 mm exactly is not', () => {
	const list = [rect(3, 1, 'a'), rect(3.2, 1, 'b'), rect(4.5, 1, 'c')];
	const nameOf = (i: number) => list[i]!.name;
	expect(judgeLongOpenings(list.slice(0, 1), nameOf)).toBeNull();
	expect(judgeLongOpenings(list, nameOf)).toMatchObject({
		level: 'watch',
		statement: '2 openings are over 3 mm and may be scooped: c, 4.50 mm.',
		doNext: ['Divide them into windows']
	});
});

describe('an opening that carries its own least area ratio', () => {
	// 0.3 mm round through 100 µm: 0.75.
	const round = { areaMm2: (Math.PI * 0.09) / 4, perimeterMm: Math.PI * 0.3, widthMm: 0.3, lengthMm: 0.3 };
	test('goes by it, on both sides, whatever its walls', () => {
		expect(forecastOpening(round, 0.1).result).toBe('pass');
		expect(forecastOpening({ ...round, areaRatioLimit: 0.72 }, 0.1).result).toBe('pass');
		expect(forecastOpening({ ...round, areaRatioLimit: 0.7201 }, 0.1).result).toBe('marginal');
		expect(forecastOpening({ ...round, areaRatioLimit: 0.75 }, 0.1).result).toBe('marginal');
		expect(forecastOpening({ ...round, areaRatioLimit: 0.7501 }, 0.1)).toMatchObject({ result: 'fail', below: ['area'] });
		expect(forecastOpening({ ...round, areaRatioLimit: 0.5 }, 0.15).result).toBe('marginal');
		expect(forecastOpening({ ...round, areaRatioLimit: 0.9 }, 0.1, 'electroformed').use).toBeCloseTo(0.75 / 0.9, 12);
		expect(forecastOpening({ ...round, areaRatioLimit: 0.75 }, 0.08).thickestMm).toBeCloseTo(0.1, 12);
	});
	test('and says so; one that cannot be is refused', () => {
		const named = [{ ...round, name: 'U1 pin A1', areaRatioLimit: 0.8 }];
		const { verdict } = checkStencil(named, 0.1, 'laser');
		expect(verdict.level).toBe('act');
		expect(verdict.because[0]).toMatchObject({ limit: 'at least 0.8, of this opening', source: 'the plant’s own, carried by the opening' });
		for (const areaRatioLimit of [0.29, 1.51]) expect(() => forecastOpening({ ...round, areaRatioLimit }, 0.1)).toThrow('areaRatioLimit');
		for (const areaRatioLimit of [0.3, 1.5]) expect(() => forecastOpening({ ...round, areaRatioLimit }, 0.1)).not.toThrow();
	});
});
