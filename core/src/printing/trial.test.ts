import { describe, expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import { planTrial, readTrial, settingOfPrints, TRIAL_FACTORS, type TrialFactor, type TrialPanel } from './index.ts';

const RANGES = {
	force: { low: 0.18, high: 0.26, unit: 'kg/cm' },
	speed: { low: 30, high: 60, unit: 'mm/s' },
	separation: { low: 1, high: 5, unit: 'mm/s' }
};

/** Panels of a printer whose volume follows these effects, half of them from low to middle. */
function panels(
	effects: Partial<Record<TrialFactor, number>>,
	{
		bend = 0,
		sigma = 0.8,
		each = 4,
		seed = 2,
		rear = 0
	}: { bend?: number; sigma?: number; each?: number; seed?: number; rear?: number } = {}
): TrialPanel[] {
	const random = seededRandom(seed);
	return planTrial(RANGES, 7).flatMap(({ coded, centre }) =>
		Array.from({ length: each }, (_, i): TrialPanel => {
			const stroke = i % 2 ? 'R' : 'F';
			const volume = TRIAL_FACTORS.reduce((v, f) => v + ((effects[f] ?? 0) / 2) * coded[f], 92);
			return { coded, stroke, response: volume + (centre ? bend : 0) + (stroke === 'R' ? rear : 0) + sigma * random.normal() };
		})
	);
}

test('a panel belongs to the setting that was set before it; none before the first and after the end', () => {
	const steps = [
		{ setting: 0, fromMs: 100 },
		{ setting: 1, fromMs: 200 }
	];
	expect(settingOfPrints(steps, null, [99, 100, 199, 200, 900])).toEqual([null, 0, 0, 1, 1]);
	expect(settingOfPrints(steps, 500, [300, 501])).toEqual([1, null]);
	expect(settingOfPrints([], null, [1])).toEqual([null]);
});

describe('plan of a trial', () => {
	test('eight corners once each, and the middle first, between and last', () => {
		const plan = planTrial(RANGES, 1);
		expect(plan).toHaveLength(11);
		expect([0, 5, 10].map((i) => plan[i]!.centre)).toEqual([true, true, true]);
		const corners = plan.filter((s) => !s.centre).map((s) => TRIAL_FACTORS.map((f) => s.coded[f]).join());
		expect(new Set(corners).size).toBe(8);
	});
	test('values are the ends of the range and its middle', () => {
		for (const { coded, value } of planTrial(RANGES, 4))
			for (const f of TRIAL_FACTORS)
				expect(value[f]).toBeCloseTo({ '-1': RANGES[f].low, '0': (RANGES[f].low + RANGES[f].high) / 2, '1': RANGES[f].high }[coded[f]]!, 9);
	});
	test('the order is drawn: it repeats with its seed and changes with another', () => {
		const order = (seed: number) => JSON.stringify(planTrial(RANGES, seed).map((s) => s.coded));
		expect(order(3)).toBe(order(3));
		expect(new Set([1, 2, 3, 4, 5].map(order)).size).toBeGreaterThan(3);
	});
	test('each factor is balanced: as often low as high', () => {
		for (const f of TRIAL_FACTORS) expect(planTrial(RANGES, 9).reduce((s, x) => s + x.coded[f], 0)).toBe(0);
	});
	test('a range the wrong way round is named', () => {
		expect(() => planTrial({ ...RANGES, speed: { low: 60, high: 30, unit: 'mm/s' } }, 1)).toThrow('speed.high');
		expect(() => planTrial({ ...RANGES, force: { low: 0, high: 1, unit: 'kg/cm' } }, 1)).toThrow('force.low');
	});
});

describe('reading of a trial', () => {
	test('without noise the effects are exactly those that were put in', () => {
		const { strokes } = readTrial(panels({ force: -6, separation: 2 }, { sigma: 0 }));
		for (const s of strokes) {
			const of = (name: string) => s.effects.find((e) => e.name === name)!.effect;
			expect(of('force')).toBeCloseTo(-6, 9);
			expect(of('separation')).toBeCloseTo(2, 9);
			expect(of('speed')).toBeCloseTo(0, 9);
			expect(of('force × speed')).toBeCloseTo(0, 9);
			expect(s.curvature!.effect).toBeCloseTo(0, 9);
		}
	});
	test('front and rear strokes are read apart', () => {
		const front = panels({ force: -6 }).filter((p) => p.stroke === 'F');
		const rear = panels({ force: 0 }).filter((p) => p.stroke === 'R');
		const { strokes } = readTrial([...front, ...rear]);
		const force = (stroke: string) => strokes.find((s) => s.stroke === stroke)!.effects[0]!;
		expect(force('F').real).toBe(true);
		expect(force('R').real).toBe(false);
	});
	test('a bend of the response is seen by the centre points', () => {
		const { strokes, verdict } = readTrial(panels({ force: -6 }, { bend: 5 }));
		expect(strokes.every((s) => s.curvature!.real)).toBe(true);
		expect(verdict.doNext.join()).toContain('inside the range');
	});
	test('the corner nearest to the target is proposed', () => {
		const { strokes } = readTrial(panels({ force: -6, speed: -4 }), 97);
		for (const { best } of strokes) {
			expect(best!.coded.force).toBe(-1);
			expect(best!.coded.speed).toBe(-1);
			expect(Math.abs(best!.expected - 97)).toBeLessThan(1.5);
		}
	});
	test('of trials in which nothing acts, about one effect in twenty looks real', () => {
		let [real, all] = [0, 0];
		for (let seed = 1; seed <= 120; seed++)
			for (const s of readTrial(panels({}, { seed })).strokes) {
				real += s.effects.filter((e) => e.real).length;
				all += s.effects.length;
			}
		expect(real / all).toBeGreaterThan(0.02);
		expect(real / all).toBeLessThan(0.09);
	});
	test('nothing real: the verdict says so and keeps the recipe', () => {
		const { strokes, verdict } = readTrial(
			panels({}, { sigma: 0.001, seed: 3 }).map((p) => ({ ...p, response: 92 + (p.stroke === 'R' ? 0.001 : 0) }))
		);
		expect(strokes[0]!.best).toBeNull();
		expect(verdict.level).toBe('good');
	});
	test('a stroke without all corners is refused by its name', () => {
		expect(() => readTrial(panels({}).filter((p) => !(p.stroke === 'R' && p.coded.force === 1)))).toThrow('stroke R');
	});
	test('no panel yet is no verdict', () => {
		expect(readTrial([]).verdict.level).toBe('noData');
	});
});
