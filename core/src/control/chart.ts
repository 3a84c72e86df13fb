import { InputError, type Verdict, noData } from '../judgement/index.ts';
import { mean } from '../numerics/index.ts';

/** Factors of control charts for subgroups of n. */
export interface ChartConstants {
	d2: number;
	d3: number;
	c4: number;
	A2: number;
	D3: number;
	D4: number;
}

/** Control chart factors, computed from the distribution of the range of n normal values.
 * @param n subgroup size, 2 to 50
 * @throws {InputError} `out-of-range`
 * @see ASTM E2587 / ISO 7870-2 factor tables; compared in checks/quality.test.ts
 */
export function chartConstants(n: number): ChartConstants {
	if (!Number.isInteger(n) || n < 2 || n > 50) throw new InputError('out-of-range', 'n', 'a whole number from 2 to 50', n);
	// E[R] = ∫ P(R > w) dw and E[R²] = ∫ 2w P(R > w) dw, with P(R <= w) = n ∫ φ(x) (Φ(x+w) − Φ(x))^(n−1) dx.
	// The trapezoid rule on smooth, quickly falling integrands is accurate to better than 1e-6 here.
	const step = 0.02;
	let first = 0;
	let second = 0;
	for (let w = step / 2; w < 12; w += step) {
		let within = 0;
		for (let x = -8; x <= 8; x += step) within += density(x) * (phi(x + w) - phi(x)) ** (n - 1);
		const beyond = 1 - Math.min(1, n * within * step);
		first += beyond * step;
		second += 2 * w * beyond * step;
	}
	const d2 = first;
	const d3 = Math.sqrt(second - first * first);
	const c4 = Math.sqrt(2 / (n - 1)) * gammaRatio(n);
	return {
		d2,
		d3,
		c4,
		A2: 3 / (d2 * Math.sqrt(n)),
		D3: Math.max(0, 1 - (3 * d3) / d2),
		D4: 1 + (3 * d3) / d2
	};
}

function density(x: number): number {
	return Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI);
}

/** Normal distribution function; Numerical-recipes style rational erfc, error below 1.2e-7. */
function phi(x: number): number {
	const z = Math.abs(x) / Math.SQRT2;
	const t = 1 / (1 + z / 2);
	const poly =
		-1.26551223 +
		t *
			(1.00002368 +
				t *
					(0.37409196 +
						t *
							(0.09678418 +
								t * (-0.18628806 + t * (0.27886807 + t * (-1.13520398 + t * (1.48851587 + t * (-0.82215223 + t * 0.17087277))))))));
	const tail = (t * Math.exp(-z * z + poly)) / 2;
	return x > 0 ? 1 - tail : tail;
}

/** Γ(n/2) / Γ((n−1)/2) by the recurrence from n = 2, where it is 1/√π·… exactly. */
function gammaRatio(n: number): number {
	let ratio = 1 / Math.sqrt(Math.PI);
	for (let k = 3; k <= n; k++) ratio = (k - 2) / 2 / ratio;
	return ratio;
}

export interface IndividualsChart {
	centre: number;
	lower: number;
	upper: number;
	meanMovingRange: number;
	/** Index of each point strictly beyond a limit. */
	beyond: number[];
	/** How many points the limits were set from. */
	baseline: number;
}

/** Individuals chart with moving ranges: centre ± 3·MR̄/1.128. A point on a limit is inside.
 * @param values one statistic a panel, in time order; at least 2
 * @param baseline the limits come from these values, or from the first so many, and are then frozen
 * @throws {InputError} `empty` with fewer than two values
 * @see ASTM E2587; constant to three decimals so that results match printed forms
 */
export function individualsChart(values: readonly number[], baseline: number | readonly number[] = values.length): IndividualsChart {
	const base = typeof baseline === 'number' ? values.slice(0, Math.max(2, baseline)) : baseline;
	if (base.length < 2) throw new InputError('empty', 'values', 'at least two values', values);
	const meanMovingRange = mean(base.slice(1).map((v, i) => Math.abs(v - base[i]!)));
	const centre = mean(base);
	const reach = (3 * meanMovingRange) / 1.128;
	const lower = centre - reach;
	const upper = centre + reach;
	const beyond = values.flatMap((v, i) => (v < lower || v > upper ? [i] : []));
	return { centre, lower, upper, meanMovingRange, beyond, baseline: base.length };
}

const ENOUGH = 20;

/** Says what an individuals chart shows. A point beyond a limit marks the chart: one in 370 is chance.
 * @param baseline the values that the limits come from; the first 40 where none are given
 * @see common practice: limits from at least 20 points
 */
export function judgeChart(
	name: string,
	unit: string,
	values: readonly number[],
	baseline: readonly number[] = values.slice(0, 40)
): { chart: IndividualsChart | null; verdict: Verdict } {
	if (values.length < 2) return { chart: null, verdict: noData(`${name}: fewer than two panels so far.`) };
	const chart = individualsChart(values, baseline.length < 2 ? values : baseline);
	const because = [
		{
			quantity: `${name}, latest panel`,
			value: values.at(-1)!,
			unit,
			limit: `${chart.lower.toFixed(1)} to ${chart.upper.toFixed(1)}`,
			source: 'individuals chart, mean ± 3 · mean moving range / 1.128 (ASTM E2587, value from memory)',
			formula: `${chart.centre.toFixed(2)} ± 3 · ${chart.meanMovingRange.toFixed(3)} / 1.128, from a baseline of ${chart.baseline} panels`
		}
	];
	if (values.length < ENOUGH)
		return {
			chart,
			verdict: {
				level: 'noData',
				statement: `${name}: ${values.length} panels, limits need ${ENOUGH}.`,
				because,
				doNext: [`Wait for ${ENOUGH - values.length} more panels`]
			}
		};
	const recent = chart.beyond.filter((i) => i >= values.length - 10);
	if (recent.length === 0) {
		const before = chart.beyond.length;
		const earlier = before === 0 ? '' : before === 1 ? '; one earlier panel lay outside' : `; ${before} earlier panels lay outside`;
		return { chart, verdict: { level: 'good', statement: `${name} is steady${earlier}.`, because, doNext: [] } };
	}
	const last = recent.at(-1)!;
	return {
		chart,
		verdict: {
			level: 'watch',
			statement: `${name} left its limits ${values.length - 1 - last === 0 ? 'on the latest panel' : `${values.length - 1 - last} panels ago`}.`,
			because,
			doNext: ['Look at that panel’s pads', 'Check what changed just before it']
		}
	};
}
