import { describe, expect, test } from 'vitest';
import {
	bestMoves,
	checkProfile,
	GENERIC_WINDOWS,
	METRIC_WORDS,
	RAMP_WINDOW_S,
	tuneRecipe,
	type Oven,
	type OvenRecipe,
	type Spot
} from './index.ts';

const OVEN: Oven = {
	zoneM: Array(8).fill(0.4),
	entryM: 0.3,
	entryShare: 0.1,
	cooling: [{ lengthM: 0.6, airC: 60 }],
	ambientC: 25,
	borderM: 0.1,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 60,
	beltMinCmPerMin: 30,
	beltMaxCmPerMin: 120
};
const spot = (name: Spot['name'], tauS: number): Spot => ({
	name,
	at: name === 'heavy' ? 'L1' : 'R1',
	arealHeat: tauS * 110,
	tauS,
	tau: [{ untilM: Infinity, tauS }]
});
const SPOTS = [spot('light', 22), spot('typical', 28), spot('heavy', 36)];
const WINDOW = GENERIC_WINDOWS.leadFree;
const GOOD: OvenRecipe = tuned({ setC: [110, 130, 150, 165, 180, 200, 235, 250], beltCmPerMin: 62 });

function tuned(start: OvenRecipe): OvenRecipe {
	const search = tuneRecipe(OVEN, start, SPOTS, WINDOW);
	for (let next = search.next(); ; next = search.next()) if (next.done) return next.value.recipe;
}

describe('the verdict of a profile', () => {
	test('inside the window it is good or watched, and names what is nearest its limit', () => {
		const check = checkProfile(OVEN, GOOD, SPOTS, WINDOW);
		expect(check.usePct).toBeLessThan(100);
		expect(['good', 'watch']).toContain(check.verdict.level);
		expect(check.verdict.statement.toLowerCase()).toMatch(
			/(rise|soak time|time above reference|peak|fall) at the (light|typical|heavy) spot/
		);
	});

	test('the score is the largest use of all spots and metrics', () => {
		const check = checkProfile(OVEN, GOOD, SPOTS, WINDOW);
		const all = check.spots.flatMap((s) => Object.values(s.use).map((u) => Math.abs(u!)));
		expect(check.usePct).toBe(Math.max(...all));
		for (const s of check.spots) expect(s.worst.use).toBe(Math.max(...Object.values(s.use).map((u) => Math.abs(u!))));
	});

	test('the working lists every metric of every spot, the nearest to its limit first', () => {
		const { because } = checkProfile(OVEN, GOOD, SPOTS, WINDOW).verdict;
		expect(because).toHaveLength(SPOTS.length * Object.keys(METRIC_WORDS).length);
		const uses = because.map((reason) => Math.abs(Number(/uses (-?\d+)/.exec(reason.formula!)![1])));
		expect(uses).toEqual([...uses].sort((a, b) => b - a));
		expect(because[0]!.source).toBe(WINDOW.source);
		expect(because[0]!.formula).toContain(`ramps over ${RAMP_WINDOW_S} s`);
	});

	test('too hot: do not run, and how many limits are broken', () => {
		const hot = checkProfile(OVEN, { ...GOOD, setC: GOOD.setC.map((c, i) => (i >= 6 ? c + 30 : c)) }, SPOTS, WINDOW);
		expect(hot.verdict.level).toBe('act');
		expect(hot.verdict.statement).toMatch(/^Do not run: peak at the light spot \(R1\) is outside, and \d+ more\.$/);
	});

	test('a soak that is never completed is no number, and never a pass', () => {
		const cold = checkProfile(OVEN, { setC: [60, 70, 80, 90, 100, 110, 120, 130], beltCmPerMin: 120 }, SPOTS, WINDOW);
		expect(cold.usePct).toBe(Infinity);
		expect(cold.verdict.level).toBe('act');
		expect(cold.verdict.statement).toContain('never completes its soak time');
		expect(cold.spots[0]!.use.soak).toBeNull();
	});

	test('just inside is watched: the profile board comes first', () => {
		let belt = GOOD.beltCmPerMin;
		let check = checkProfile(OVEN, GOOD, SPOTS, WINDOW);
		while (check.usePct <= 80) check = checkProfile(OVEN, { ...GOOD, beltCmPerMin: ++belt }, SPOTS, WINDOW);
		expect(check.usePct).toBeLessThanOrEqual(100);
		expect(check.verdict).toMatchObject({ level: 'watch', doNext: ['Run the profile board before product'] });
	});
});

describe('moves', () => {
	const off: OvenRecipe = { ...GOOD, beltCmPerMin: GOOD.beltCmPerMin + 12 };

	test('each changes one thing by one step, within the oven', () => {
		for (const move of bestMoves(OVEN, off, SPOTS, WINDOW)) {
			const zones = move.recipe.setC.filter((c, i) => c !== off.setC[i]);
			const belt = move.recipe.beltCmPerMin !== off.beltCmPerMin;
			expect(zones.length + (belt ? 1 : 0)).toBe(1);
			expect(move.action).toMatch(/^(Zone \d+ (up|down) 5 K|Belt \d+ to \d+ cm\/min)$/);
			expect(() => checkProfile(OVEN, move.recipe, SPOTS, WINDOW)).not.toThrow();
		}
	});

	test('what a move promises is what the full model gives', () => {
		for (const move of bestMoves(OVEN, off, SPOTS, WINDOW))
			expect(checkProfile(OVEN, move.recipe, SPOTS, WINDOW).usePct).toBeCloseTo(move.usePct, 9);
	});

	test('no move leaves the machine: at the belt’s end it is not offered', () => {
		const slowest = { ...GOOD, beltCmPerMin: OVEN.beltMinCmPerMin };
		for (const move of bestMoves(OVEN, slowest, SPOTS, WINDOW))
			expect(move.recipe.beltCmPerMin).toBeGreaterThanOrEqual(OVEN.beltMinCmPerMin);
	});
});

describe('tuning', () => {
	test('it reports as it goes, can be stopped by not asking, and repeats', () => {
		const start: OvenRecipe = { ...GOOD, beltCmPerMin: GOOD.beltCmPerMin + 20 };
		const first = tuneRecipe(OVEN, start, SPOTS, WINDOW).next();
		const again = tuneRecipe(OVEN, start, SPOTS, WINDOW).next();
		expect(first.done).toBe(false);
		expect(first).toEqual(again);
		if (!first.done) {
			expect(first.value.progress).toBeGreaterThanOrEqual(0);
			expect(first.value.best.setC).toHaveLength(OVEN.zoneM.length);
		}
	});

	test('from three different starts it ends inside the window', () => {
		for (const setC of [
			[100, 120, 140, 160, 180, 200, 230, 250],
			[130, 150, 160, 170, 180, 190, 220, 255],
			[90, 110, 130, 150, 170, 190, 225, 260]
		]) {
			const recipe = tuned({ setC, beltCmPerMin: 70 });
			expect(checkProfile(OVEN, recipe, SPOTS, WINDOW).usePct).toBeLessThan(100);
		}
	});
});
