import { expect, test } from 'vitest';
import { panelGeometry, type BoardPart } from './artwork/index.ts';
import { planLine } from './balance/index.ts';
import { judgeChart } from './control/index.ts';
import { seededRandom, mean, quantile } from './numerics/index.ts';
import type { PlacerSpec } from './placement/index.ts';
import { bestMoves, boardSpots, checkProfile, GENERIC_WINDOWS, startingRecipe, tuneRecipe, type Oven } from './reflow/index.ts';
import { checkStencil } from './stencil/index.ts';

const CHIP_PLACER: PlacerSpec = {
	name: 'fast',
	slots: 20,
	slotPitchMm: 14,
	cameraSlot: 10,
	onTheFly: true,
	spindles: 8,
	headPitchMm: 14,
	x: { vMmS: 1500, aMmS2: 15000 },
	y: { vMmS: 1500, aMmS2: 15000 },
	pickS: 0.04,
	placeS: 0.04,
	cameraS: 0,
	transferS: 3,
	fiducialS: 0.3,
	accuracyUm: 50,
	accuracySigmas: 3,
	smallestMm: 0.2,
	largestMm: 6,
	tallestMm: 3,
	finestPitchMm: 0.5,
	trays: false
};
const FLEXIBLE: PlacerSpec = {
	...CHIP_PLACER,
	name: 'flexible',
	spindles: 4,
	onTheFly: false,
	cameraS: 0.25,
	largestMm: 50,
	tallestMm: 20,
	finestPitchMm: 0.3,
	trays: true
};

const part = (refDes: string, partNumber: string, packageName: string, k: number): BoardPart => ({
	refDes,
	partNumber,
	packageName,
	value: '',
	xMm: 5 + ((k * 7) % 60),
	yMm: 5 + ((k * 11) % 40),
	rotationDeg: 0,
	fitted: true,
	apertures: []
});
const PARTS = [
	...Array.from({ length: 60 }, (_, i) => part(`R${i}`, `R-${i % 6}`, 'RESC1005X40N', i)),
	part('U1', 'BGA', 'BGA256C40P16X16_800X800X90', 61),
	part('J1', 'CONN', 'CONN_24X8X9', 62)
];
const LAYOUT = {
	rows: 2,
	columns: 1,
	pitchXMm: 0,
	pitchYMm: 52,
	railMm: 5,
	fiducials: [
		{ x: 2, y: 2 },
		{ x: 70, y: 2 }
	]
};
const PANEL = panelGeometry({ widthMm: 70, heightMm: 50 }, LAYOUT);

test('a plan places every part once, gives every feeder its own slots, and sends fine pitch to the machine that can', () => {
	const plan = planLine(PARTS, PANEL, [CHIP_PLACER, FLEXIBLE]);
	expect(plan.byHand).toEqual([]);
	expect(plan.machines.reduce((sum, m) => sum + m.placements, 0)).toBe(62 * 2);
	const flexible = plan.machines[1]!.loadList.map((load) => load.partNumber);
	expect(flexible).toEqual(expect.arrayContaining(['BGA', 'CONN']));
	for (const machine of plan.machines) {
		const taken = machine.loadList.flatMap((load) => Array.from({ length: load.slots }, (_, i) => load.slot + i));
		expect(new Set(taken).size).toBe(taken.length);
		expect(Math.max(...taken)).toBeLessThanOrEqual(20);
		expect(machine.loadList.map((load) => load.slot)).toEqual([...machine.loadList.map((load) => load.slot)].sort((a, b) => a - b));
	}
	const slower = Math.max(...plan.machines.map((m) => m.totalS));
	const alone = planLine(PARTS, PANEL, [FLEXIBLE]).machines[0]!.totalS;
	expect(slower).toBeLessThan(alone);
});

test('what no machine can place goes to the hand list with each machine’s reason', () => {
	const plan = planLine([part('L1', 'TALL', 'CONN_24X8X30', 1), ...PARTS.slice(0, 10)], PANEL, [CHIP_PLACER, FLEXIBLE]);
	expect(plan.byHand).toHaveLength(1);
	expect(plan.byHand[0]!.reasons.join()).toContain('flexible: height 30 mm, at most 20 mm');
});

test('too few slots are said, not overfilled', () => {
	const plan = planLine(PARTS, PANEL, [{ ...FLEXIBLE, slots: 8, cameraSlot: 4 }]);
	expect(plan.byHand.length).toBeGreaterThan(0);
	expect(plan.byHand[0]!.reasons[0]).toContain('slots run short');
});

const OVEN: Oven = {
	zoneM: Array(10).fill(0.35),
	entryM: 0.3,
	entryShare: 0.1,
	cooling: [
		{ lengthM: 0.4, airC: 90 },
		{ lengthM: 0.4, airC: 45 }
	],
	ambientC: 25,
	borderM: 0.1,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 60,
	beltMinCmPerMin: 30,
	beltMaxCmPerMin: 140
};
const BUILD = { thicknessMm: 1.6, copperLayers: 4, copperShare: 0.5 };
const SPOTS = boardSpots(BUILD, PARTS, OVEN);
const WINDOW = GENERIC_WINDOWS.leadFree;

test('the heavy spot lags the typical, the typical the light one, and a thicker board lags more', () => {
	expect(SPOTS.map((spot) => spot.name)).toEqual(['light', 'typical', 'heavy']);
	expect(SPOTS[0]!.tauS).toBeLessThan(SPOTS[1]!.tauS);
	expect(SPOTS[1]!.tauS).toBeLessThanOrEqual(SPOTS[2]!.tauS);
	expect(boardSpots({ ...BUILD, thicknessMm: 2.4 }, PARTS, OVEN)[1]!.tauS).toBeGreaterThan(SPOTS[1]!.tauS);
});

test('tuning never makes a recipe worse and stays within the oven', () => {
	const start = startingRecipe(OVEN, WINDOW);
	const before = checkProfile(OVEN, start, SPOTS, WINDOW).usePct;
	const search = tuneRecipe(OVEN, start, SPOTS, WINDOW);
	let next = search.next();
	while (!next.done) next = search.next();
	const after = checkProfile(OVEN, next.value.recipe, SPOTS, WINDOW);
	expect(after.usePct).toBeLessThanOrEqual(before);
	expect(after.usePct).toBeLessThan(100);
	expect(after.verdict.level).not.toBe('act');
});

test('a recipe that breaks the window is not run, and the best move brings it nearer', () => {
	const cold = { ...startingRecipe(OVEN, WINDOW), beltCmPerMin: 110 };
	const check = checkProfile(OVEN, cold, SPOTS, WINDOW);
	expect(check.verdict.level).toBe('act');
	expect(check.verdict.statement).toMatch(/^Do not run/);
	const move = bestMoves(OVEN, cold, SPOTS, WINDOW)[0]!;
	expect(move.action).toMatch(/Zone|Belt/);
});

test('a recipe the oven cannot do is refused by name', () => {
	const recipe = startingRecipe(OVEN, WINDOW);
	expect(() => checkProfile(OVEN, { ...recipe, setC: recipe.setC.slice(1) }, SPOTS, WINDOW)).toThrow('recipe.setC: expected 10 zones');
	expect(() => checkProfile(OVEN, { ...recipe, setC: recipe.setC.with(3, 400) }, SPOTS, WINDOW)).toThrow('zone 4: expected 60 to 300 °C');
	expect(() => checkProfile(OVEN, { ...recipe, beltCmPerMin: 800 }, SPOTS, WINDOW)).toThrow('belt: expected 30 to 140 cm/min');
});

test('a stencil verdict names the worst opening and the foil that would work', () => {
	const circle = (d: number) => ({ name: `ball ${d}`, areaMm2: (Math.PI * d * d) / 4, perimeterMm: Math.PI * d, widthMm: d, lengthMm: d });
	const openings = [circle(0.25), circle(0.6)];
	const thick = checkStencil(openings, 0.12, 'laser');
	expect(thick.verdict.level).toBe('act');
	expect(thick.verdict.statement).toContain('ball 0.25 worst');
	expect(thick.verdict.doNext[0]).toBe('Take 80 µm: every opening passes');
	expect(thick.ranking[0]).toBe(0);
	expect(checkStencil(openings, 0.08, 'laser').verdict.level).toBe('good');
	expect(checkStencil([circle(0.15)], 0.08, 'laser').verdict.doNext[0]).toContain('57 µm or thinner');
});

test('a chart needs twenty panels, then marks a point beyond its limits', () => {
	const random = seededRandom(7);
	const steady = Array.from({ length: 60 }, () => 100 + random.normal());
	expect(judgeChart('Volume', '%', steady.slice(0, 12)).verdict.level).toBe('noData');
	const shifted = [...steady.slice(0, 50), 112];
	const { chart, verdict } = judgeChart('Volume', '%', shifted);
	expect(verdict.level).toBe('watch');
	expect(chart!.beyond).toContain(50);
});

test('the same seed gives the same numbers, with the moments they promise', () => {
	const a = seededRandom(42);
	const b = seededRandom(42);
	const values = Array.from({ length: 4000 }, () => a.normal());
	expect(values.slice(0, 5)).toEqual(Array.from({ length: 5 }, () => b.normal()));
	expect(Math.abs(mean(values))).toBeLessThan(0.06);
	expect(quantile(values, 0.975)).toBeGreaterThan(1.85);
	expect(quantile(values, 0.975)).toBeLessThan(2.08);
});
