import { correlation, leastSquares, madSpread } from '../../numerics/index.ts';
import type { Prepared, SignaturePanel } from './run.ts';

export const FACTORS = ['stroke', 'wipe', 'time', 'topup', 'pause'] as const;
export type Factor = (typeof FACTORS)[number];

/** Pauses above this count, min. */
const PAUSE_MIN = 20;
const ALIKE = 0.9;
/** Farthest that a panel may lie from the fit before it is left out and named, lp; five spreads where that is more. */
export const FAR_PANEL_LP = 10;

export interface FactorFit {
	/** Coefficient and t of each factor that could be tested. */
	effects: Partial<Record<Factor, { value: number; error: number; t: number }>>;
	/** Largest value of the counters: what a slope adds up to. */
	reach: Record<Factor, number>;
	/** Panels that the fit left out. */
	outliers: number[];
	/** Factors without variation, or with too few of a kind. */
	notTestable: Factor[];
	/** Pairs that cannot be told apart in this run; the second of each is left out of the fit. */
	ambiguous: [Factor, Factor][];
}

function column(factor: Factor, panels: readonly SignaturePanel[]): number[] {
	const first = panels[0]!.tMin;
	const length = Math.max(...panels.map((p) => p.tMin)) - first || 1;
	return panels.map((p) => {
		switch (factor) {
			case 'stroke':
				return p.stroke === 'F' ? 0.5 : -0.5;
			case 'wipe':
				return p.printsSinceWipe;
			case 'time':
				return (p.tMin - first) / length;
			case 'topup':
				return p.printsSinceTopup;
			case 'pause':
				return p.minutesSincePrevious > PAUSE_MIN ? 1 : 0;
		}
	});
}

/** Multiple regression of panel medians on stroke, prints since wipe, time, prints since top-up, and a print after a pause.
 * All at once: an even wipe interval aliases stroke with wipe phase. Re-fitted without the panels whose residual exceeds max(5 spreads, 10 lp).
 */
export function fitFactors(y: readonly number[], panels: readonly SignaturePanel[]): FactorFit {
	const columns = new Map<Factor, number[]>();
	const notTestable: Factor[] = [];
	for (const factor of FACTORS) {
		const values = column(factor, panels);
		const distinct = new Set(values).size;
		const enough = factor === 'stroke' ? ['F', 'R'].every((s) => panels.filter((p) => p.stroke === s).length >= 4) : distinct > 1;
		// One pause is one panel: it tells that panel from the others, not a pause from none.
		const pauses = factor !== 'pause' || values.reduce((a, b) => a + b, 0) >= 2;
		if (distinct > 1 && enough && pauses) columns.set(factor, values);
		else notTestable.push(factor);
	}
	const ambiguous: [Factor, Factor][] = [];
	const names = [...columns.keys()];
	for (let i = 0; i < names.length; i++)
		for (let j = i + 1; j < names.length; j++) {
			const [a, b] = [columns.get(names[i]!), columns.get(names[j]!)];
			if (a && b && Math.abs(correlation(a, b)) > ALIKE) {
				ambiguous.push([names[i]!, names[j]!]);
				columns.delete(names[j]!);
			}
		}
	const kept = [...columns.keys()];
	const row = (i: number) => [1, ...kept.map((f) => columns.get(f)![i]!)];
	let use = panels.map((_, i) => i).filter((i) => Number.isFinite(y[i]));
	const solve = () =>
		leastSquares(
			use.map(row),
			use.map((i) => y[i]!)
		);
	const reach = Object.fromEntries(FACTORS.map((f) => [f, Math.max(...column(f, panels))])) as FactorFit['reach'];
	try {
		const first = solve();
		const spread = madSpread(first.residuals).spread;
		const far = Math.max(5 * spread, FAR_PANEL_LP);
		const outliers = use.filter((_, k) => Math.abs(first.residuals[k]!) > far);
		use = use.filter((i) => !outliers.includes(i));
		const fit = outliers.length ? solve() : first;
		const effects: FactorFit['effects'] = {};
		kept.forEach((f, k) => {
			const value = fit.coefficients[k + 1]!;
			const error = fit.standardErrors[k + 1]!;
			effects[f] = { value, error, t: value / error };
		});
		return { effects, reach, outliers, notTestable, ambiguous };
	} catch {
		// Columns that depend on each other only together: nothing of them can be told apart.
		return { effects: {}, reach, outliers: [], notTestable: [...notTestable, ...kept], ambiguous };
	}
}

export interface TiltFit {
	across: { value: number; error: number; t: number };
	along: { value: number; error: number; t: number };
}

/** Pad medians on class intercepts, across and along, trimmed at max(4 spreads, 6 lp).
 * @param leave pads that a local cause explains already
 */
export function fitTilt({ run, md, across, along }: Prepared, leave: ReadonlySet<number> = new Set()): TiltFit | null {
	let use = run.pads.map((_, p) => p).filter((p) => !leave.has(p) && Number.isFinite(md[p]));
	for (let pass = 0; ; pass++) {
		// Class intercepts drop out when every column is centred within its class.
		const sums = new Map<string, { n: number; y: number; a: number; b: number }>();
		for (const p of use) {
			const key = run.pads[p]!.padClass;
			const s = sums.get(key) ?? { n: 0, y: 0, a: 0, b: 0 };
			sums.set(key, s);
			s.n++;
			s.y += md[p]!;
			s.a += across[p]!;
			s.b += along[p]!;
		}
		let [aa, ab, bb, ay, by] = [0, 0, 0, 0, 0];
		const centred = use.map((p) => {
			const s = sums.get(run.pads[p]!.padClass)!;
			const [y, a, b] = [md[p]! - s.y / s.n, across[p]! - s.a / s.n, along[p]! - s.b / s.n];
			aa += a * a;
			ab += a * b;
			bb += b * b;
			ay += a * y;
			by += b * y;
			return [y, a, b] as const;
		});
		const det = aa * bb - ab * ab;
		const freedom = use.length - sums.size - 2;
		if (!(det > 1e-9) || freedom < 10) return null;
		const ca = (ay * bb - by * ab) / det;
		const cb = (by * aa - ay * ab) / det;
		const residuals = centred.map(([y, a, b]) => y - ca * a - cb * b);
		if (pass === 0) {
			const far = Math.max(4 * madSpread(residuals).spread, 6);
			const kept = use.filter((_, i) => Math.abs(residuals[i]!) <= far);
			if (kept.length < use.length) {
				use = kept;
				continue;
			}
		}
		const variance = residuals.reduce((sum, e) => sum + e * e, 0) / freedom;
		const [ea, eb] = [Math.sqrt((variance * bb) / det), Math.sqrt((variance * aa) / det)];
		return { across: { value: ca, error: ea, t: ca / ea }, along: { value: cb, error: eb, t: cb / eb } };
	}
}
