import { boxOf, pointIndex } from '../../geometry/index.ts';
import { madSpread, medianInPlace } from '../../numerics/index.ts';
import type { Prepared } from './run.ts';

export interface LocalFind {
	/** Median over the pads of the place, lp. */
	size: number;
	z: number;
	pads: number[];
	at: { xMm: number; yMm: number };
	/** Strip across the blade, mm. */
	strip?: [number, number];
}

/** Reach of a place on the board, mm: two sizes, since a sag is as wide as the support lets it be. */
const RADII_MM = [7.5, 13] as const;
const STEP_MM = 3;
/** Places of one cause that are named at once. */
export const MOST_NAMED = 3;

/** Places where deposits stand too high: the board sags there. At least 4 pads of 2 components.
 * Height residual of a pad: 100·ln of its height ratio, less the median of its class.
 * @param without pads that another cause explains
 */
export function highPlaces(prepared: Prepared, leastLp: number, leastZ: number, without: ReadonlySet<number> = new Set()): LocalFind[] {
	const { run, hr } = prepared;
	const n = run.pads.length;
	const residual = lessClassMedian(prepared, (p) => 100 * Math.log(Math.max(hr[p]!, 0.01)));
	const spread = Math.max(1.5, madSpread(residual.filter(Number.isFinite)).spread);
	const measured = run.pads.flatMap(({ xMm: x, yMm: y }, pad) =>
		Number.isFinite(residual[pad]) && !without.has(pad) ? [{ pad, x, y }] : []
	);
	const within = pointIndex(measured);
	const { minX, maxX, minY, maxY } = boxOf(measured);
	const scratch = new Float64Array(n);
	const near = new Int32Array(n);
	const finds: LocalFind[] = [];
	for (let y = minY; y <= maxY + STEP_MM; y += STEP_MM)
		for (let x = minX; x <= maxX + STEP_MM; x += STEP_MM) {
			for (const radius of RADII_MM) {
				let k = 0;
				const refDes = new Set<string | null>();
				for (const i of within({ x, y }, radius)) {
					const p = measured[i]!.pad;
					refDes.add(run.pads[p]!.refDes);
					scratch[k] = residual[p]!;
					near[k++] = p;
				}
				if (k < 4 || refDes.size < 2) continue;
				const size = medianInPlace(scratch, k);
				const z = size / ((1.2533 * spread) / Math.sqrt(k));
				if (size >= leastLp && z >= leastZ) finds.push({ size, z, pads: [...near.subarray(0, k)], at: { xMm: x, yMm: y } });
			}
		}
	return apart(finds, (a, b) => Math.hypot(a.at.xMm - b.at.xMm, a.at.yMm - b.at.yMm) < 2 * RADII_MM[1]);
}

/** High places that no nick explains: where most of one lies in a nicked strip the blade leaves the paste too high, not the support, and places are looked for among
 * the pads outside the strips alone.
 */
export function unsupportedPlaces(prepared: Prepared, strips: readonly LocalFind[], leastLp: number, leastZ: number): LocalFind[] {
	const places = highPlaces(prepared, leastLp, leastZ);
	const inStrip = new Set(
		prepared.run.pads.flatMap((_, pad) => {
			const across = prepared.acrossMm[pad]!;
			return strips.some(({ strip }) => across >= strip![0] && across <= strip![1]) ? [pad] : [];
		})
	);
	const nicked = places.some(({ pads }) => 2 * pads.filter((pad) => inStrip.has(pad)).length >= pads.length);
	return nicked ? highPlaces(prepared, leastLp, leastZ, inStrip) : places;
}

const STRIP_MM = 10;

/** Front minus rear of each pad, less the middle of all, lp; null where a stroke has too few panels. */
export function strokeDifferences({ run, r, md }: Prepared): { difference: Float64Array; sigma: number } | null {
	const n = run.pads.length;
	const front = run.panels.flatMap((p, i) => (p.stroke === 'F' ? [i] : []));
	const rear = run.panels.flatMap((p, i) => (p.stroke === 'R' ? [i] : []));
	if (front.length < 4 || rear.length < 4) return null;
	const scratch = new Float64Array(run.panels.length);
	const middleOf = (pad: number, panels: readonly number[]) => {
		let k = 0;
		for (const m of panels) {
			const v = r[m * n + pad]!;
			if (v === v) scratch[k++] = v - md[pad]!;
		}
		return medianInPlace(scratch, k);
	};
	const difference = Float64Array.from({ length: n }, (_, p) => middleOf(p, front) - middleOf(p, rear));
	const { centre, spread } = madSpread(difference.filter(Number.isFinite));
	return { difference: difference.map((d) => d - centre), sigma: Math.max(1, spread) };
}

/** Strips across the blade where front and rear strokes differ more than elsewhere: a nick in one of the blades. */
export function nickedStrips(prepared: Prepared, leastLp: number, leastZ: number): LocalFind[] {
	const { run, acrossMm } = prepared;
	const n = run.pads.length;
	const found = strokeDifferences(prepared);
	if (!found) return [];
	const { difference, sigma } = found;
	const order = Int32Array.from({ length: n }, (_, p) => p).sort((a, b) => acrossMm[a]! - acrossMm[b]!);
	const low = acrossMm[order[0]!]!;
	const high = acrossMm[order[n - 1]!]!;
	const finds: LocalFind[] = [];
	const values = new Float64Array(n);
	for (let at = low; at <= high; at += STRIP_MM / 4) {
		const pads: number[] = [];
		for (const p of order) if (acrossMm[p]! >= at && acrossMm[p]! <= at + STRIP_MM && Number.isFinite(difference[p]!)) pads.push(p);
		// A strip that holds most of the pads is not a place.
		if (pads.length < 4 || pads.length > 0.6 * n) continue;
		for (let i = 0; i < pads.length; i++) values[i] = difference[pads[i]!]!;
		const size = medianInPlace(values, pads.length);
		const z = Math.abs(size) / ((1.2533 * sigma) / Math.sqrt(pads.length));
		if (Math.abs(size) >= leastLp && z >= leastZ) {
			const mid = at + STRIP_MM / 2;
			const place = run.strokeAxis === 'x' ? { xMm: prepared.centre.x, yMm: mid } : { xMm: mid, yMm: prepared.centre.y };
			finds.push({ size, z, pads, at: place, strip: [at, at + STRIP_MM] });
		}
	}
	return apart(finds, (a, b) => Math.abs(a.strip![0] - b.strip![0]) < 2 * STRIP_MM);
}

/** Openings that deliver far less than their class over the last third of the panels. */
export function blockedPads(prepared: Prepared, belowLp: number): { pad: number; size: number }[] {
	const { run, r, md } = prepared;
	const n = run.pads.length;
	const classes = classMedians(prepared, (p) => md[p]!);
	const from = run.panels.length - Math.max(1, Math.round(run.panels.length / 3));
	const scratch = new Float64Array(run.panels.length);
	const out: { pad: number; size: number }[] = [];
	for (let p = 0; p < n; p++) {
		let k = 0;
		for (let m = from; m < run.panels.length; m++) {
			const v = r[m * n + p]!;
			if (v === v) scratch[k++] = v;
		}
		const size = medianInPlace(scratch, k) - classes.get(run.pads[p]!.padClass)!;
		if (size <= -belowLp) out.push({ pad: p, size });
	}
	return out.sort((a, b) => a.size - b.size);
}

function classMedians({ run }: Prepared, value: (pad: number) => number): Map<string, number> {
	const groups = new Map<string, number[]>();
	run.pads.forEach(({ padClass }, p) => {
		const v = value(p);
		if (!Number.isFinite(v)) return;
		const list = groups.get(padClass);
		if (list) list.push(v);
		else groups.set(padClass, [v]);
	});
	return new Map([...groups].map(([name, list]) => [name, medianInPlace(Float64Array.from(list))]));
}

function lessClassMedian(prepared: Prepared, value: (pad: number) => number): Float64Array {
	const classes = classMedians(prepared, value);
	return Float64Array.from(prepared.run.pads, ({ padClass }, p) => value(p) - (classes.get(padClass) ?? NaN));
}

/** The strongest of finds that overlap. */
function apart(finds: LocalFind[], same: (a: LocalFind, b: LocalFind) => boolean): LocalFind[] {
	const kept: LocalFind[] = [];
	for (const f of finds.sort((a, b) => b.z - a.z)) if (!kept.some((k) => same(k, f))) kept.push(f);
	return kept;
}
