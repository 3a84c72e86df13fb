import {
	exactInterval,
	fitLogistic,
	leastSquares,
	logisticProbability,
	normalCdf,
	seededRandom,
	studentQuantile
} from '@keen-relay/core/numerics';
import { gaugeShare } from '@keen-relay/core/inspection';
import { planTrial, readTrial, TRIAL_FACTORS, wipeCosts, type TrialPanel } from '@keen-relay/core/printing';
import { PrintPhysics } from '@keen-relay/devices/print-physics';
import { describe, expect, test } from 'vitest';

// Studies of the print cell against a second way of computing each. Sources are named beside the check; values from memory say so.

describe('a trial on the simulated printer', () => {
	// The physics is the simulation's own and invented; the trial sees volumes only.
	const pads = Array.from({ length: 120 }, (_, i) => ({
		xMm: (i % 12) * 4,
		yMm: Math.floor(i / 12) * 4,
		areaMm2: 0.0616,
		perimeterMm: 0.88,
		minSideMm: 0.28
	}));
	const trial = (separation: { low: number; high: number }, force = { low: 0.18, high: 0.26 }, seed = 4) => {
		const physics = new PrintPhysics(pads, 100, seededRandom(seed));
		const ranges = {
			force: { ...force, unit: 'kg/cm' },
			speed: { low: 38, high: 42, unit: 'mm/s' },
			separation: { ...separation, unit: 'mm/s' }
		};
		const each = 8;
		return readTrial(
			planTrial(ranges, seed).flatMap(({ coded, value }, k) =>
				Array.from({ length: each }, (_, i): TrialPanel => {
					const print = k * each + i;
					const stroke = i % 2 ? 'R' : 'F';
					const { volume } = physics.print({
						stroke,
						printsSinceWipe: i,
						beadUsed: 0.2,
						minutesSincePrevious: 1,
						ageShare: print / 100,
						print,
						setting: { forceKgPerCm: value.force, speedMmPerS: value.speed, separationMmPerS: value.separation }
					});
					return { coded, stroke, response: (100 * volume.reduce((a, b) => a + b, 0)) / pads.length };
				})
			)
		);
	};

	test('separation that pulls paste back is found in both strokes, with its sign, and is the strongest', () => {
		const { strokes, verdict } = trial({ low: 2, high: 12 });
		for (const { effects } of strokes) {
			const effect = effects.find((e) => e.name === 'separation')!;
			expect(effect.real).toBe(true);
			expect(effect.high).toBeLessThan(0);
		}
		expect(verdict.statement).toMatch(/^separation moves the volume most: -/);
	});
	test('ranges around what the printer comes with: nothing but chance, in nearly every trial', () => {
		const named = Array.from({ length: 20 }, (_, seed) => trial({ low: 1.9, high: 2.1 }, { low: 0.199, high: 0.201 }, seed)).flatMap(
			({ strokes }) => strokes.flatMap(({ effects }) => effects.filter((e) => e.real))
		);
		// 20 trials, two strokes, six effects, each wrong in one of twenty: 12 expected.
		expect(named.length).toBeLessThanOrEqual(24);
	});
});

describe('a 2³ trial against the standard order of Yates', () => {
	// Yates, "The design and analysis of factorial experiments", 1937 (the algorithm from memory): sums and differences of pairs, three times over.
	function yates(inStandardOrder: readonly number[]): number[] {
		let column = [...inStandardOrder];
		for (let round = 0; round < 3; round++) {
			const pairs = [0, 2, 4, 6].map((i) => [column[i]!, column[i + 1]!] as const);
			column = [...pairs.map(([a, b]) => a + b), ...pairs.map(([a, b]) => b - a)];
		}
		return column;
	}
	/** Standard order: the first factor changes fastest. */
	const order = Array.from({ length: 8 }, (_, i) => ({ force: i & 1 ? 1 : -1, speed: i & 2 ? 1 : -1, separation: i & 4 ? 1 : -1 }));

	test('effects of single panels equal contrast / 4', () => {
		const random = seededRandom(77);
		for (let trial = 0; trial < 20; trial++) {
			const y = order.map(() => 90 + 6 * random.normal());
			const contrasts = yates(y);
			const panels = order.map((coded, i): TrialPanel => ({ coded, stroke: 'F', response: y[i]! }));
			const { effects } = readTrial(panels).strokes[0]!;
			const of = (name: string) => effects.find((e) => e.name === name)!.effect;
			// Standard order of the contrasts: 1, A, B, AB, C, AC, BC, ABC.
			expect(of('force')).toBeCloseTo(contrasts[1]! / 4, 9);
			expect(of('speed')).toBeCloseTo(contrasts[2]! / 4, 9);
			expect(of('force × speed')).toBeCloseTo(contrasts[3]! / 4, 9);
			expect(of('separation')).toBeCloseTo(contrasts[4]! / 4, 9);
			expect(of('force × separation')).toBeCloseTo(contrasts[5]! / 4, 9);
			expect(of('speed × separation')).toBeCloseTo(contrasts[6]! / 4, 9);
		}
	});
	test('with equal repeats the interval is the t interval of a difference of two means', () => {
		const random = seededRandom(5);
		const panels = order.flatMap((coded) =>
			Array.from({ length: 3 }, (): TrialPanel => ({ coded, stroke: 'R', response: 90 + 2 * coded.force + random.normal() }))
		);
		const { effects, sigma } = readTrial(panels).strokes[0]!;
		const mean = (sign: number) => {
			const own = panels.filter((p) => p.coded.force === sign).map((p) => p.response);
			return own.reduce((a, b) => a + b, 0) / own.length;
		};
		expect(effects[0]!.effect).toBeCloseTo(mean(1) - mean(-1), 9);
		// 24 panels, 7 coefficients: 17 degrees of freedom; standard error of the difference of two means of 12.
		const half = studentQuantile(0.975, 17) * sigma * Math.sqrt(1 / 12 + 1 / 12);
		expect(effects[0]!.high - effects[0]!.low).toBeCloseTo(2 * half, 9);
		expect(TRIAL_FACTORS).toHaveLength(3);
	});
});

describe('logistic regression against plain ascent of its likelihood', () => {
	test('the same coefficients', () => {
		const random = seededRandom(31);
		const rows = Array.from({ length: 400 }, () => [1, random.normal(), random.uniform()]);
		const y = rows.map((x) => Number(random.uniform() < logisticProbability([-1, 0.9, 1.4], x)));
		const fit = fitLogistic(
			rows,
			y,
			rows.map(() => 1)
		);
		const beta = [0, 0, 0];
		for (let step = 0; step < 20_000; step++) {
			const slope = [0, 0, 0];
			rows.forEach((x, i) => x.forEach((v, j) => (slope[j]! += (y[i]! - logisticProbability(beta, x)) * v)));
			slope.forEach((s, j) => (beta[j]! += 0.004 * s));
		}
		// The fit's ridge of 0.001 is the only difference.
		fit.coefficients.forEach((b, j) => expect(Math.abs(b - beta[j]!)).toBeLessThan(0.01));
	});
	test('a two by two table: Woolf’s standard error of a log odds ratio (Woolf 1955, formula from memory)', () => {
		const [a, b, c, d] = [12, 48, 30, 20];
		const fit = fitLogistic(
			[
				[1, 1],
				[1, 1],
				[1, 0],
				[1, 0]
			],
			[1, 0, 1, 0],
			[a, b, c, d]
		);
		expect(fit.coefficients[1]).toBeCloseTo(Math.log((a * d) / (b * c)), 2);
		expect(Math.sqrt(fit.covariance[1]![1]!)).toBeCloseTo(Math.sqrt(1 / a + 1 / b + 1 / c + 1 / d), 2);
	});
});

describe('a gauge study against an analysis of variance', () => {
	test('repeatability is the spread within pads: the mean square of a one-way table', () => {
		const random = seededRandom(14);
		const pads = Array.from({ length: 40 }, () => 80 + 20 * random.uniform());
		const repeats = pads.map((level) => Array.from({ length: 5 }, () => level + 0.9 * random.normal()));
		// One-way table by least squares: a column for each pad.
		const rows = repeats.flatMap((values, p) => values.map(() => pads.map((_, i) => Number(i === p))));
		const { sigma } = leastSquares(rows, repeats.flat());
		const gauge = gaugeShare(repeats, 60, 140);
		expect(gauge.sigma).toBeCloseTo(sigma, 9);
		expect(gauge.share).toBeCloseTo((6 * sigma) / 80, 9);
		expect(gauge.enough).toBe(gauge.share <= 0.1);
	});
});

describe('intervals and costs', () => {
	test('no failure in n: the upper end is 1 − α^(1/n), the rule of three (common practice) for large n', () => {
		for (const n of [10, 100, 300, 1000]) {
			const { high } = exactInterval(0, n, 0.9);
			expect(high).toBeCloseTo(1 - Math.pow(0.05, 1 / n), 9);
			if (n >= 300) expect(high).toBeCloseTo(3 / n, 3);
		}
	});
	test('the cost of an interval, print by print', () => {
		const [wipeS, second, defect] = [12, 0.02, 0.4];
		const c = { pads: 300, mean: 90, sigma: 7, slope: -0.7, lowestPct: 62 };
		const { costs, best } = wipeCosts(wipeS, second, defect, [c], 40);
		for (const n of [1, 7, 40]) {
			let defects = 0;
			for (let k = 0; k < n; k++) defects += c.pads * normalCdf((c.lowestPct - (c.mean + c.slope * k)) / c.sigma);
			expect(costs[n - 1]).toBeCloseTo((wipeS * second + defect * defects) / n, 9);
		}
		expect(costs[best - 1]).toBe(Math.min(...costs));
	});
});
