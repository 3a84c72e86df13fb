import { InputError } from '../judgement/index.ts';
import { invertPositive } from './least-squares.ts';

export interface LogisticFit {
	coefficients: number[];
	/** Covariance of the coefficients, from the inverse of the information matrix. */
	covariance: number[][];
	iterations: number;
	converged: boolean;
}

/** Holds back coefficients that the data does not bind: without it a column that separates the classes runs away. */
const RIDGE = 1e-3;

/** Logistic regression P = 1/(1 + e^(−x·β)) by Newton's method on the weighted likelihood.
 * @param rows one array of regressors an observation, the first of them 1; @param y 0 or 1 a row; @param weights how many observations a row stands for
 * @throws {InputError} `mismatch` where lengths differ; `empty` where one of the two outcomes is not there
 * @see McCullagh & Nelder 1989, iteratively re-weighted least squares
 */
export function fitLogistic(rows: readonly (readonly number[])[], y: readonly number[], weights: readonly number[]): LogisticFit {
	const n = rows[0]?.length ?? 0;
	if (y.length !== rows.length || weights.length !== rows.length)
		throw new InputError('mismatch', 'y', `${rows.length} outcomes and weights, one a row`, y.length);
	if (!y.includes(0) || !y.includes(1)) throw new InputError('empty', 'y', 'both outcomes, 0 and 1', y[0] ?? 'nothing');
	let beta = new Array<number>(n).fill(0);
	let converged = false;
	let iterations = 0;
	let covariance: number[][] = [];
	for (; iterations < 60 && !converged; iterations++) {
		const information = Array.from({ length: n }, (_, j) => Array.from({ length: n }, (__, k) => (j === k && j > 0 ? RIDGE : 0)));
		const score = beta.map((b, j) => (j > 0 ? -RIDGE * b : 0));
		rows.forEach((x, i) => {
			const p = logisticProbability(beta, x);
			const w = weights[i]! * Math.max(p * (1 - p), 1e-12);
			for (let j = 0; j < n; j++) {
				score[j]! += weights[i]! * (y[i]! - p) * x[j]!;
				for (let k = 0; k < n; k++) information[j]![k]! += w * x[j]! * x[k]!;
			}
		});
		covariance = invertPositive(information);
		const step = covariance.map((row) => row.reduce((sum, c, k) => sum + c * score[k]!, 0));
		// A step is never longer than the logit can follow.
		const scale = Math.min(1, 4 / Math.max(...step.map(Math.abs)));
		beta = beta.map((b, j) => b + scale * step[j]!);
		converged = step.every((s) => Math.abs(s) < 1e-9);
	}
	return { coefficients: beta, covariance, iterations, converged };
}

/** Probability at a row of regressors. */
export function logisticProbability(coefficients: readonly number[], x: readonly number[]): number {
	let logit = 0;
	for (let j = 0; j < coefficients.length; j++) logit += coefficients[j]! * x[j]!;
	return 1 / (1 + Math.exp(-logit));
}
