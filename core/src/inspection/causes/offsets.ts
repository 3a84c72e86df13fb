import { madSpread, medianInPlace } from '../../numerics/index.ts';
import type { Prepared } from './run.ts';

export interface OffsetFits {
	/** Panel by panel: move, µm; turn and stretch, µm per mm. */
	tx: number[];
	ty: number[];
	theta: number[];
	stretch: number[];
}

/** Least squares of the offsets of each panel about the middle of the pad box: ox = tx − θw + su, oy = ty + θu + sw. */
export function fitOffsets({ run, centre }: Prepared): OffsetFits {
	const n = run.pads.length;
	const out: OffsetFits = { tx: [], ty: [], theta: [], stretch: [] };
	for (let m = 0; m < run.panels.length; m++) {
		let [k, su, sw, sx, sy] = [0, 0, 0, 0, 0];
		for (let p = 0; p < n; p++) {
			const ox = run.offsetXUm[m * n + p]!;
			const oy = run.offsetYUm[m * n + p]!;
			if (ox !== ox || oy !== oy) continue;
			su += run.pads[p]!.xMm - centre.x;
			sw += run.pads[p]!.yMm - centre.y;
			sx += ox;
			sy += oy;
			k++;
		}
		const [mu, mw, mx, my] = [su / k, sw / k, sx / k, sy / k];
		let [squares, turn, grow] = [0, 0, 0];
		for (let p = 0; p < n; p++) {
			const ox = run.offsetXUm[m * n + p]! - mx;
			const oy = run.offsetYUm[m * n + p]! - my;
			if (ox !== ox || oy !== oy) continue;
			const u = run.pads[p]!.xMm - centre.x - mu;
			const w = run.pads[p]!.yMm - centre.y - mw;
			squares += u * u + w * w;
			turn += oy * u - ox * w;
			grow += ox * u + oy * w;
		}
		const theta = squares > 0 ? turn / squares : 0;
		const stretch = squares > 0 ? grow / squares : 0;
		out.tx.push(mx + theta * mw - stretch * mu);
		out.ty.push(my - theta * mu - stretch * mw);
		out.theta.push(theta);
		out.stretch.push(stretch);
	}
	return out;
}

/** A median with the standard error of a median: 1.2533·1.4826·MAD/√n. */
export function medianWithError(values: readonly number[]): { value: number; error: number; n: number } {
	if (values.length === 0) return { value: NaN, error: NaN, n: 0 };
	const { centre, spread } = madSpread(values);
	return { value: centre, error: (1.2533 * spread) / Math.sqrt(values.length), n: values.length };
}

/** The middle of some pads' values. */
export function padMedian(values: Float64Array, pads: Iterable<number>) {
	return medianWithError([...pads].map((pad) => values[pad]!).filter(Number.isFinite));
}

/** Spread of a series with each stroke's median taken out. */
export function spreadWithinStrokes(values: readonly number[], strokes: readonly string[]): number {
	const rest = new Float64Array(values.length);
	for (const stroke of new Set(strokes)) {
		const own = values.filter((_, i) => strokes[i] === stroke);
		const middle = medianInPlace(Float64Array.from(own));
		values.forEach((v, i) => {
			if (strokes[i] === stroke) rest[i] = v - middle;
		});
	}
	return madSpread(rest).spread;
}
