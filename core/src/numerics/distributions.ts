import { InputError } from '../judgement/index.ts';

/** Standard normal distribution function Φ(x), through the incomplete gamma function; error below 1e-14. */
export function normalCdf(x: number): number {
	if (x === 0) return 0.5;
	const z = (x * x) / 2;
	const inside = z < 1.5 ? gammaSeries(0.5, z) : 1 - gammaFraction(0.5, z);
	if (x > 0) return 0.5 + inside / 2;
	return z < 1.5 ? 0.5 - inside / 2 : gammaFraction(0.5, z) / 2;
}

/** Regularised lower incomplete gamma by its series. */
function gammaSeries(a: number, x: number): number {
	let term = 1 / a;
	let sum = term;
	for (let n = 1; n < 500 && term > sum * 1e-17; n++) {
		term *= x / (a + n);
		sum += term;
	}
	return sum * Math.exp(-x + a * Math.log(x) - logGamma(a));
}

/** Regularised upper incomplete gamma by its continued fraction (modified Lentz). */
function gammaFraction(a: number, x: number): number {
	const tiny = 1e-300;
	let b = x + 1 - a;
	let c = 1 / tiny;
	let d = 1 / b;
	let h = d;
	for (let i = 1; i < 500; i++) {
		const an = -i * (i - a);
		b += 2;
		d = 1 / (an * d + b || tiny);
		c = b + an / c || tiny;
		const delta = d * c;
		h *= delta;
		if (Math.abs(delta - 1) < 1e-16) break;
	}
	return Math.exp(-x + a * Math.log(x) - logGamma(a)) * h;
}

/** ln Γ(x) for x > 0; Lanczos with g = 7 and nine terms, relative error below 1e-14. */
function logGamma(x: number): number {
	const g = [
		0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905,
		-0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7
	];
	if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
	const y = x - 1;
	let sum = g[0]!;
	for (let i = 1; i < g.length; i++) sum += g[i]! / (y + i);
	const t = y + 7.5;
	return 0.5 * Math.log(2 * Math.PI) + (y + 0.5) * Math.log(t) - t + Math.log(sum);
}

/** Regularised incomplete beta function I_x(a, b). */
function betaCdf(x: number, a: number, b: number): number {
	if (x <= 0) return 0;
	if (x >= 1) return 1;
	const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x));
	return x < (a + 1) / (a + b + 2) ? (front * betaFraction(x, a, b)) / a : 1 - (front * betaFraction(1 - x, b, a)) / b;
}

function betaFraction(x: number, a: number, b: number): number {
	const tiny = 1e-300;
	let c = 1;
	let d = 1 / (1 - ((a + b) * x) / (a + 1) || tiny);
	let h = d;
	for (let m = 1; m < 500; m++) {
		let an = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
		d = 1 / (1 + an * d || tiny);
		c = 1 + an / c || tiny;
		h *= d * c;
		an = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
		d = 1 / (1 + an * d || tiny);
		c = 1 + an / c || tiny;
		const delta = d * c;
		h *= delta;
		if (Math.abs(delta - 1) < 1e-15) break;
	}
	return h;
}

/** The x at which a rising function reaches p, by bisection. */
function invert(f: (x: number) => number, p: number, low: number, high: number): number {
	for (let i = 0; i < 200 && high - low > 1e-15 * (1 + Math.abs(low)); i++) {
		const mid = (low + high) / 2;
		if (f(mid) < p) low = mid;
		else high = mid;
	}
	return (low + high) / 2;
}

/** Quantile of Student's t.
 * @param p probability below it, in (0, 1); @param freedom degrees of freedom, > 0
 * @throws {InputError} `out-of-range`
 * @example studentQuantile(0.95, 22) // => 1.7171...
 */
export function studentQuantile(p: number, freedom: number): number {
	if (!(p > 0 && p < 1)) throw new InputError('out-of-range', 'p', 'a probability between 0 and 1', p);
	if (!(freedom > 0)) throw new InputError('out-of-range', 'freedom', 'more than 0', freedom);
	if (p === 0.5) return 0;
	const cdf = (t: number) => {
		const tail = betaCdf(freedom / (freedom + t * t), freedom / 2, 0.5) / 2;
		return t > 0 ? 1 - tail : tail;
	};
	return invert(cdf, p, -1e4, 1e4);
}

/** Quantile of the standard normal. */
export function normalQuantile(p: number): number {
	if (!(p > 0 && p < 1)) throw new InputError('out-of-range', 'p', 'a probability between 0 and 1', p);
	return invert(normalCdf, p, -40, 40);
}

/** Exact (Clopper–Pearson) interval of a proportion.
 * @param count successes of total trials; @param confidence two-sided
 * @see Clopper & Pearson 1934, through the beta quantile
 * @example exactInterval(0, 300).high // => 0.01222...
 */
export function exactInterval(count: number, total: number, confidence = 0.95): { low: number; high: number } {
	if (!(total >= 1)) throw new InputError('out-of-range', 'total', 'at least 1', total);
	if (!(count >= 0 && count <= total)) throw new InputError('out-of-range', 'count', `0 to ${total}`, count);
	const tail = (1 - confidence) / 2;
	return {
		low: count === 0 ? 0 : invert((x) => betaCdf(x, count, total - count + 1), tail, 0, 1),
		high: count === total ? 1 : invert((x) => betaCdf(x, count + 1, total - count), 1 - tail, 0, 1)
	};
}
