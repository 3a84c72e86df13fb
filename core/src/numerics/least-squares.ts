import { InputError } from '../judgement/index.ts';

export interface LinearFit {
	/** One a column, in the columns' order. */
	coefficients: number[];
	standardErrors: number[];
	residuals: number[];
	/** Residual standard deviation on rows − columns degrees of freedom. */
	sigma: number;
	freedom: number;
}

/** Ordinary least squares by Householder reflections.
 * @param rows one array of regressors an observation, all of the same length, at least as many rows as columns
 * @param y one value a row
 * @returns standard errors are NaN where rows = columns
 * @throws {InputError} `mismatch` where lengths differ or there are too few rows; `out-of-range` where the columns depend on each other
 * @see Golub & Van Loan, Householder QR; checks/print-alignment.test.ts compares with ml-matrix
 */
export function leastSquares(rows: readonly (readonly number[])[], y: readonly number[]): LinearFit {
	const m = rows.length;
	const n = rows[0]?.length ?? 0;
	if (m !== y.length) throw new InputError('mismatch', 'y', `${m} values, one a row`, y.length);
	if (n === 0 || m < n) throw new InputError('mismatch', 'rows', `at least ${Math.max(1, n)} rows for ${n} columns`, m);
	const a = new Float64Array(m * n);
	const scale = new Float64Array(n);
	for (let i = 0; i < m; i++)
		for (let j = 0; j < n; j++) {
			const v = rows[i]![j]!;
			a[i * n + j] = v;
			scale[j] = Math.max(scale[j]!, Math.abs(v));
		}
	const b = Float64Array.from(y);
	for (let j = 0; j < n; j++) {
		let norm = 0;
		for (let i = j; i < m; i++) norm = Math.hypot(norm, a[i * n + j]!);
		if (!(norm > 1e-11 * scale[j]! * Math.sqrt(m)))
			throw new InputError('out-of-range', `rows[*][${j}]`, 'a column that does not depend on the others', 'dependent');
		if (a[j * n + j]! > 0) norm = -norm;
		// The reflector v stands in the column below the diagonal, scaled so that H = I − v·vᵀ/v₀.
		for (let i = j; i < m; i++) a[i * n + j]! /= -norm;
		a[j * n + j]! += 1;
		for (let k = j + 1; k <= n; k++) {
			let s = 0;
			for (let i = j; i < m; i++) s += a[i * n + j]! * (k < n ? a[i * n + k]! : b[i]!);
			s = -s / a[j * n + j]!;
			for (let i = j; i < m; i++) {
				if (k < n) a[i * n + k]! += s * a[i * n + j]!;
				else b[i]! += s * a[i * n + j]!;
			}
		}
		scale[j] = norm;
	}
	const upper = (i: number, j: number) => (i === j ? scale[i]! : a[i * n + j]!);
	const coefficients = backSubstitute(upper, b, n);
	const residuals = y.map((v, i) => v - rows[i]!.reduce((sum, x, j) => sum + x * coefficients[j]!, 0));
	const freedom = m - n;
	const sigma = freedom > 0 ? Math.sqrt(residuals.reduce((sum, r) => sum + r * r, 0) / freedom) : NaN;
	// Var(β) = σ²·(RᵀR)⁻¹: the squared length of the rows of R⁻¹.
	const squared = new Float64Array(n);
	for (let k = 0; k < n; k++) {
		const unit = new Float64Array(n);
		unit[k] = 1;
		backSubstitute(upper, unit, n).forEach((v, i) => (squared[i]! += v * v));
	}
	return { coefficients, standardErrors: Array.from(squared, (v) => sigma * Math.sqrt(v)), residuals, sigma, freedom };
}

function backSubstitute(upper: (i: number, j: number) => number, b: ArrayLike<number>, n: number): number[] {
	const x = new Array<number>(n).fill(0);
	for (let i = n - 1; i >= 0; i--) {
		let s = b[i]!;
		for (let j = i + 1; j < n; j++) s -= upper(i, j) * x[j]!;
		x[i] = s / upper(i, i);
	}
	return x;
}

/** Inverse of a symmetric positive definite matrix, by Cholesky's factors.
 * @throws {InputError} `out-of-range` where the matrix is not positive definite
 */
export function invertPositive(matrix: readonly (readonly number[])[]): number[][] {
	const n = matrix.length;
	const l = matrix.map((row) => [...row]);
	for (let j = 0; j < n; j++)
		for (let i = j; i < n; i++) {
			let s = matrix[i]![j]!;
			for (let k = 0; k < j; k++) s -= l[i]![k]! * l[j]![k]!;
			if (i > j) l[i]![j] = s / l[j]![j]!;
			else if (s > 1e-14 * Math.abs(matrix[j]![j]!)) l[j]![j] = Math.sqrt(s);
			else throw new InputError('out-of-range', `matrix[${j}]`, 'a positive definite matrix', s);
		}
	// Column by column: L·y = e, then Lᵀ·x = y.
	const columns = matrix.map((_, c) => {
		const x = new Array<number>(n).fill(0);
		for (let i = 0; i < n; i++) {
			let s = i === c ? 1 : 0;
			for (let k = 0; k < i; k++) s -= l[i]![k]! * x[k]!;
			x[i] = s / l[i]![i]!;
		}
		for (let i = n - 1; i >= 0; i--) {
			let s = x[i]!;
			for (let k = i + 1; k < n; k++) s -= l[k]![i]! * x[k]!;
			x[i] = s / l[i]![i]!;
		}
		return x;
	});
	return matrix.map((_, i) => columns.map((column) => column[i]!));
}

export interface CurveFit {
	parameters: number[];
	standardErrors: number[];
	/** Weighted sum of squared residuals. */
	cost: number;
	converged: boolean;
	iterations: number;
}

/** Nonlinear least squares by Levenberg–Marquardt with a numerical Jacobian.
 * @param model value at observation i for these parameters
 * @param y observed values; @param weights one a value, ≥ 0
 * @param start parameters to start from; @param bounds lowest and highest of each, kept by clamping; @param most iterations
 * @see Marquardt 1963; Nielsen's damping is not needed for the few parameters that we fit
 */
export function fitCurve(
	model: (parameters: readonly number[], i: number) => number,
	y: readonly number[],
	weights: readonly number[],
	start: readonly number[],
	bounds: readonly (readonly [number, number])[],
	most = 200
): CurveFit {
	const clamp = (p: number[]) => p.map((v, j) => Math.min(bounds[j]![1], Math.max(bounds[j]![0], v)));
	const residuals = (p: readonly number[]) => y.map((v, i) => Math.sqrt(weights[i]!) * (v - model(p, i)));
	const squares = (r: readonly number[]) => r.reduce((sum, v) => sum + v * v, 0);
	let p = clamp([...start]);
	let r = residuals(p);
	let cost = squares(r);
	let damping = 1e-3;
	let converged = false;
	let iterations = 0;
	let jacobian = slopes(residuals, p, r);
	for (; iterations < most && !converged; iterations++) {
		const better = step(jacobian, r, damping).map((d, j) => p[j]! + d);
		const tried = clamp(better);
		const there = residuals(tried);
		const costThere = squares(there);
		if (costThere <= cost) {
			converged = cost - costThere <= 1e-14 * (1 + cost) && tried.every((v, j) => Math.abs(v - p[j]!) <= 1e-9 * (1 + Math.abs(v)));
			[p, r, cost] = [tried, there, costThere];
			damping = Math.max(1e-12, damping / 5);
			jacobian = slopes(residuals, p, r);
		} else {
			damping *= 4;
			// No step however small helps: this is the bottom.
			converged = damping > 1e12;
		}
	}
	const freedom = y.length - p.length;
	const free = p.map((v, j) => v > bounds[j]![0] && v < bounds[j]![1]);
	const kept = jacobian.map((row) => row.filter((_, j) => free[j]));
	let errors: number[];
	try {
		errors = freedom > 0 && kept[0]?.length ? leastSquares(kept, r).standardErrors : [];
	} catch {
		errors = [];
	}
	let next = 0;
	return { parameters: p, standardErrors: free.map((f) => (f ? (errors[next++] ?? NaN) : 0)), cost, converged, iterations };
}

/** Slopes of the model, weighted as the residuals are: −∂r/∂p. */
function slopes(residuals: (p: readonly number[]) => number[], p: readonly number[], at: readonly number[]): number[][] {
	const columns = p.map((v, j) => {
		const h = 1e-6 * (Math.abs(v) + 1e-3);
		const moved = residuals(p.map((w, k) => (k === j ? w + h : w)));
		return moved.map((value, i) => (at[i]! - value) / h);
	});
	return at.map((_, i) => columns.map((column) => column[i]!));
}

function step(jacobian: readonly (readonly number[])[], r: readonly number[], damping: number): number[] {
	const n = jacobian[0]!.length;
	// Normal equations: a handful of parameters, and the damping keeps them well away from singular.
	const normal = Array.from({ length: n }, () => new Array<number>(n).fill(0));
	const gradient = new Array<number>(n).fill(0);
	for (let i = 0; i < r.length; i++) {
		const row = jacobian[i]!;
		for (let j = 0; j < n; j++) {
			gradient[j]! += row[j]! * r[i]!;
			for (let k = 0; k <= j; k++) normal[j]![k]! += row[j]! * row[k]!;
		}
	}
	for (let j = 0; j < n; j++) {
		for (let k = 0; k < j; k++) normal[k]![j] = normal[j]![k]!;
		normal[j]![j] = (1 + damping) * normal[j]![j]! || 1e-24;
	}
	return invertPositive(normal).map((row) => row.reduce((sum, v, k) => sum + v * gradient[k]!, 0));
}
