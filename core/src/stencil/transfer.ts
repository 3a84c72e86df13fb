import { InputError } from '../judgement/index.ts';
import { fitCurve } from '../numerics/index.ts';

/** TE = TEmax/(1+e^(−k(AR−a0))): our model; a plant fits it to its own volumes. */
export interface TransferModel {
	teMax: number;
	k: number;
	a0: number;
}

export const DEFAULT_TRANSFER: TransferModel = { teMax: 1, k: 7.4, a0: 0.473 };

/** Share of the opening's volume that is delivered, as a fraction. */
export function transferEfficiency(areaRatio: number, { teMax, k, a0 }: TransferModel = DEFAULT_TRANSFER): number {
	return teMax / (1 + Math.exp(-k * (areaRatio - a0)));
}

/** Spread of the delivered volume, %: 4 + 16·e^(−(AR−0.5)/0.15), our model. */
export function transferCvPct(areaRatio: number): number {
	return 4 + 16 * Math.exp(-(areaRatio - 0.5) / 0.15);
}

/** Area ratio at which a thicker foil starts to deliver less: k·AR·(1−TE/TEmax) = 1, on the side of small openings.
 * @returns null where the model has no such point
 * @example turningAreaRatio() // => 0.655
 */
export function turningAreaRatio({ k, a0 }: TransferModel = DEFAULT_TRANSFER): number | null {
	// V(T) rises while k·AR·(1−s) < 1, with s the logistic share; the largest root ends the fall.
	const f = (ar: number) => k * ar * (1 - 1 / (1 + Math.exp(-k * (ar - a0)))) - 1;
	let high = 3;
	if (f(high) > 0) return null;
	let low = high;
	while (low > 0.01 && f(low) <= 0) low -= 0.005;
	if (f(low) <= 0) return null;
	for (let i = 0; i < 60; i++) {
		const mid = (low + high) / 2;
		if (f(mid) > 0) low = mid;
		else high = mid;
	}
	return (low + high) / 2;
}

/** One size of opening with what was measured on it. */
export interface TransferGroup {
	areaRatio: number;
	/** Mean volume over A·T of the measured foil, as a fraction. */
	efficiency: number;
	/** Pads behind that mean. */
	pads: number;
}

export interface TransferFit {
	model: TransferModel;
	/** Standard errors of teMax, k, a0; null where the parameter was kept. */
	standardErrors: { teMax: number | null; k: number | null; a0: number | null };
	identifiable: boolean;
	/** Area ratios that were measured; outside them the curve is a guess. */
	from: number;
	to: number;
	/** Weighted root mean square of the misfit, as a fraction. */
	rms: number;
	converged: boolean;
	statement: string;
}

/** Fits the transfer curve to measured volumes: weighted nonlinear least squares from a 3 × 3 grid of starts.
 * TEmax is free from 0.9 to 1.3, because an inspection unit reads the gap above the mask as paste. Never through the logit: a TE of 1 breaks it.
 * @param groups one a size of opening; at least one
 * @returns "not identifiable" with k and a0 kept where no opening is small enough to show the fall
 * @throws {InputError} `empty`, `out-of-range`
 */
export function fitTransfer(groups: readonly TransferGroup[], start: TransferModel = DEFAULT_TRANSFER): TransferFit {
	if (groups.length === 0) throw new InputError('empty', 'groups', 'at least one size of opening', groups);
	groups.forEach((g, i) => {
		if (!(g.areaRatio > 0)) throw new InputError('out-of-range', `groups[${i}].areaRatio`, 'more than 0', g.areaRatio);
		if (!(g.efficiency >= 0 && g.efficiency < 3)) throw new InputError('out-of-range', `groups[${i}].efficiency`, '0 to 3', g.efficiency);
		if (!(g.pads > 0)) throw new InputError('out-of-range', `groups[${i}].pads`, 'more than 0', g.pads);
	});
	const from = Math.min(...groups.map((g) => g.areaRatio));
	const to = Math.max(...groups.map((g) => g.areaRatio));
	const y = groups.map((g) => g.efficiency);
	const weights = groups.map((g) => g.pads);
	const rmsOf = (cost: number) => Math.sqrt(cost / weights.reduce((a, b) => a + b, 0));
	// The same size in two shapes is still one size.
	const sizes = new Set(groups.map((g) => g.areaRatio.toFixed(2))).size;
	if (from >= start.a0 + 0.25 || sizes < 4) {
		const fit = fitCurve(
			([teMax], i) => transferEfficiency(groups[i]!.areaRatio, { ...start, teMax: teMax! }),
			y,
			weights,
			[start.teMax],
			[[0.9, 1.3]]
		);
		return {
			model: { ...start, teMax: fit.parameters[0]! },
			standardErrors: { teMax: fit.standardErrors[0] ?? null, k: null, a0: null },
			identifiable: false,
			from,
			to,
			rms: rmsOf(fit.cost),
			converged: fit.converged,
			statement:
				sizes < 4
					? `Not identifiable: ${sizes} sizes of opening, four are needed. The curve’s place and slope are kept.`
					: `Not identifiable: the smallest measured area ratio is ${from.toFixed(2)}, one below ${(start.a0 + 0.25).toFixed(2)} is needed. The curve’s place and slope are kept.`
		};
	}
	const value = ([teMax, k, a0]: readonly number[], i: number) =>
		transferEfficiency(groups[i]!.areaRatio, { teMax: teMax!, k: k!, a0: a0! });
	const bounds = [
		[0.9, 1.3],
		[1, 40],
		[0.05, 1.5]
	] as const;
	// A few steps from every corner of the grid tell which valley is the deepest; the rest of the way is gone once.
	let best: ReturnType<typeof fitCurve> | null = null;
	for (const k of [4, 7.4, 12])
		for (const a0 of [0.4, 0.473, 0.55]) {
			const tried = fitCurve(value, y, weights, [1, k, a0], bounds, 4);
			if (!best || tried.cost < best.cost) best = tried;
		}
	best = fitCurve(value, y, weights, best!.parameters, bounds);
	const [teMax, k, a0] = best.parameters as [number, number, number];
	const [seMax, seK, seA0] = best.standardErrors;
	return {
		model: { teMax, k, a0 },
		standardErrors: { teMax: seMax ?? null, k: seK ?? null, a0: seA0 ?? null },
		identifiable: true,
		from,
		to,
		rms: rmsOf(best.cost),
		converged: best.converged,
		statement: `TEmax ${teMax.toFixed(3)}, k ${k.toFixed(2)}, a0 ${a0.toFixed(3)}, from area ratios ${from.toFixed(2)} to ${to.toFixed(2)}.`
	};
}

/** A group's own factor on the plant's curve, shrunk towards 1 where few pads speak: n/(n+n₀).
 * @param groups of one wall, paste or shape
 * @param plant the curve of that wall
 * @returns multiply the plant's efficiency by this
 */
export function groupFactor(groups: readonly TransferGroup[], plant: TransferModel, n0 = 200): number {
	const pads = groups.reduce((sum, g) => sum + g.pads, 0);
	if (pads === 0) return 1;
	const ratio = groups.reduce((sum, g) => sum + (g.pads * g.efficiency) / transferEfficiency(g.areaRatio, plant), 0) / pads;
	return 1 + (ratio - 1) * (pads / (pads + n0));
}

export interface ShapeFactor {
	shape: string;
	factor: number;
	/** Pads that speak for it. */
	pads: number;
}

/** Each shape's own factor on the plant's curve, the best known first.
 * @param groups of one wall and one paste, with the shape of their openings
 */
export function shapeFactors(groups: readonly (TransferGroup & { shape: string })[], plant: TransferModel, n0 = 200): ShapeFactor[] {
	return [...new Set(groups.map((g) => g.shape))]
		.map((shape) => {
			const own = groups.filter((g) => g.shape === shape);
			return { shape, factor: groupFactor(own, plant, n0), pads: own.reduce((sum, g) => sum + g.pads, 0) };
		})
		.sort((a, b) => b.pads - a.pads || a.shape.localeCompare(b.shape));
}
