import { InputError } from '../../judgement/index.ts';
import type { PadSize } from '../pad-size.ts';
import { mean, medianInPlace } from '../../numerics/index.ts';
import { DEFAULT_TRANSFER, transferEfficiency, type TransferModel } from '../../stencil/index.ts';

export interface SignaturePad {
	/** "U7 pin 23", or what names it where the pin is unknown. */
	name: string;
	refDes: string | null;
	/** Where it is known. */
	pin?: string | null;
	padClass: string;
	xMm: number;
	yMm: number;
	/** Shorter side of the opening, mm. */
	minSideMm: number;
	/** In either axis, where it is known. */
	sizeMm?: PadSize;
	areaRatio: number;
}

export interface SignaturePanel {
	serial: string;
	/** Since the run began, min. */
	tMin: number;
	stroke: string;
	/** The first print after a wipe has 0. */
	printsSinceWipe: number;
	printsSinceTopup: number;
	minutesSincePrevious: number;
}

/** Readings of a run, panel by panel: reading of pad p on panel m at m·pads + p; NaN where it is missing. */
export interface SignatureRun {
	pads: readonly SignaturePad[];
	panels: readonly SignaturePanel[];
	volumePct: Float32Array;
	heightUm: Float32Array;
	areaPct: Float32Array;
	offsetXUm: Float32Array;
	offsetYUm: Float32Array;
	/** Highest point of each deposit, µm; where the unit gives it. */
	peakHeightUm?: Float32Array;
	/** Bridges, panel by panel. */
	bridges?: readonly number[];
	/** Measured thickness of the foil, not its label. */
	foilUm: number;
	/** The axis that the blade travels along. */
	strokeAxis: 'x' | 'y';
}

export interface Prepared {
	run: SignatureRun;
	/** Expected efficiency of each pad, as a fraction. */
	expected: Float64Array;
	/** r = 100·ln(max(volume, 5)/e), lp, panel by panel. */
	r: Float32Array;
	/** Median of r over the panels, pad by pad. */
	md: Float64Array;
	/** Median over pads of r − md, panel by panel: all pads, and the 40 % with the smallest area ratio. */
	pa: number[];
	ps: number[];
	/** Height over foil over TE^0.6, median over panels, pad by pad. */
	hr: Float64Array;
	/** Area over TE^0.4, likewise. */
	ar: Float64Array;
	/** Position of each pad across and along the stroke, −1 to 1 over the pads' box; mm for strips. */
	across: Float64Array;
	along: Float64Array;
	acrossMm: Float64Array;
	smallest: Int32Array;
	rMaxMm: number;
	centre: { x: number; y: number };
}

/** Share of the pads that counts as small. */
const SMALL_SHARE = 0.4;

/** @throws {InputError} `mismatch` where an array's length is not panels × pads */
export function checkRun(run: SignatureRun): void {
	const [n, m] = [run.pads.length, run.panels.length];
	for (const key of ['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm'] as const)
		if (run[key].length !== n * m) throw new InputError('mismatch', key, `${m} panels × ${n} pads = ${n * m} readings`, run[key].length);
}

/** Log-percent residuals and their medians: what every signature is read from.
 * @param golden efficiency of each pad from an approved baseline, as a fraction; the transfer model's where it is left out
 * @throws {InputError} `mismatch` where an array's length is not panels × pads
 */
export function prepare(run: SignatureRun, model: TransferModel = DEFAULT_TRANSFER, golden?: ArrayLike<number>): Prepared {
	const [n, m] = [run.pads.length, run.panels.length];
	checkRun(run);
	if (golden && golden.length !== n) throw new InputError('mismatch', 'golden', `${n} values, one a pad`, golden.length);
	const expected = new Float64Array(n);
	for (let p = 0; p < n; p++) expected[p] = golden ? golden[p]! : transferEfficiency(run.pads[p]!.areaRatio, model);
	const r = new Float32Array(n * m);
	const md = new Float64Array(n);
	const hr = new Float64Array(n);
	const ar = new Float64Array(n);
	const scratch = new Float64Array(Math.max(n, m));
	for (let p = 0; p < n; p++) {
		const e = 100 * expected[p]!;
		const [eh, ea] = [run.foilUm * expected[p]! ** 0.6, 100 * expected[p]! ** 0.4];
		let k = 0;
		for (let i = p; i < n * m; i += n) {
			const v = run.volumePct[i]!;
			const value = 100 * Math.log(Math.max(v, 5) / e);
			r[i] = value;
			if (v === v) scratch[k++] = value;
		}
		md[p] = medianInPlace(scratch, k);
		hr[p] = medianOf(run.heightUm, p, n, scratch) / eh;
		ar[p] = medianOf(run.areaPct, p, n, scratch) / ea;
	}
	const smallest = smallestOf(run.pads);
	const pa: number[] = [];
	const ps: number[] = [];
	for (let i = 0; i < m; i++) {
		let k = 0;
		for (let p = 0; p < n; p++) {
			const v = r[i * n + p]!;
			if (v === v) scratch[k++] = v - md[p]!;
		}
		pa.push(medianInPlace(scratch, k));
		k = 0;
		for (const p of smallest) {
			const v = r[i * n + p]!;
			if (v === v) scratch[k++] = v - md[p]!;
		}
		ps.push(medianInPlace(scratch, k));
	}
	return { run, expected, r, md, pa, ps, hr, ar, smallest, ...place(run) };
}

/** Indices of the 40 % with the smallest area ratios: the openings that react first. */
function smallestOf(pads: readonly SignaturePad[]): Int32Array {
	const order = Int32Array.from(pads, (_, p) => p).sort((a, b) => pads[a]!.areaRatio - pads[b]!.areaRatio || a - b);
	return order.slice(0, Math.max(1, Math.round(SMALL_SHARE * pads.length)));
}

/** Mean volume of the small openings, panel by panel, %; NaN where none of them was measured. */
export function smallOpeningMeans({ pads, panels, volumePct }: SignatureRun): number[] {
	const small = [...smallestOf(pads)];
	return panels.map((_, m) => {
		const measured = small.map((p) => volumePct[m * pads.length + p]!).filter((v) => v === v);
		return measured.length ? mean(measured) : NaN;
	});
}

/** What each pad of a good run carries, as a share of its opening's volume: its median over the panels; 1 where it was never measured. */
export function baselineOf({ pads, volumePct }: SignatureRun): number[] {
	const scratch = new Float64Array(volumePct.length / pads.length);
	return pads.map((_, p) => {
		let k = 0;
		for (let i = p; i < volumePct.length; i += pads.length) if (volumePct[i]! > 0) scratch[k++] = volumePct[i]! / 100;
		return k ? medianInPlace(scratch, k) : 1;
	});
}

/** What each pad carries in the middle of a stroke's panels: front and rear blades are two tools. NaN where a pad was never read. */
export function strokeMedians(
	{ pads, panels, ...readings }: SignatureRun,
	stroke: string
): { panels: number } & Record<'volumePct' | 'heightUm' | 'areaPct' | 'offsetXUm' | 'offsetYUm', number[]> {
	const of = panels.flatMap((p, m) => (p.stroke === stroke ? [m] : []));
	const scratch = new Float64Array(of.length);
	const middle = (values: Float32Array) =>
		pads.map((_, p) => {
			let k = 0;
			for (const m of of) {
				const v = values[m * pads.length + p]!;
				if (v === v) scratch[k++] = v;
			}
			return medianInPlace(scratch, k);
		});
	return {
		panels: of.length,
		volumePct: middle(readings.volumePct),
		heightUm: middle(readings.heightUm),
		areaPct: middle(readings.areaPct),
		offsetXUm: middle(readings.offsetXUm),
		offsetYUm: middle(readings.offsetYUm)
	};
}

/** Median over panels of one pad's readings. */
function medianOf(values: Float32Array, pad: number, stride: number, scratch: Float64Array): number {
	let k = 0;
	for (let i = pad; i < values.length; i += stride) if (values[i]! === values[i]!) scratch[k++] = values[i]!;
	return medianInPlace(scratch, k);
}

function place({ pads, strokeAxis }: SignatureRun): Pick<Prepared, 'across' | 'along' | 'acrossMm' | 'rMaxMm' | 'centre'> {
	let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
	for (const { xMm, yMm } of pads) {
		minX = Math.min(minX, xMm);
		maxX = Math.max(maxX, xMm);
		minY = Math.min(minY, yMm);
		maxY = Math.max(maxY, yMm);
	}
	const centre = { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
	const [halfX, halfY] = [Math.max(1e-9, (maxX - minX) / 2), Math.max(1e-9, (maxY - minY) / 2)];
	const ux = Float64Array.from(pads, (p) => (p.xMm - centre.x) / halfX);
	const uy = Float64Array.from(pads, (p) => (p.yMm - centre.y) / halfY);
	const travelsX = strokeAxis === 'x';
	return {
		along: travelsX ? ux : uy,
		across: travelsX ? uy : ux,
		acrossMm: Float64Array.from(pads, (p) => (travelsX ? p.yMm : p.xMm)),
		rMaxMm: Math.hypot(halfX, halfY),
		centre
	};
}
