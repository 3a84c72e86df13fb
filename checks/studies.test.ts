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
import { readTrial, TRIAL_FACTORS, wipeCosts, type TrialPanel } from '@keen-relay/core/printing';
import { describe, expect, test } from 'vitest';

// Studies of the print cell against a second way of computing each. Sources are named beside the check; values from memory say so.

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
