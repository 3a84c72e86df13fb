import { InputError, type Verdict } from '../judgement/index.ts';
import type { Point } from '../geometry/index.ts';
import { above, atMost } from '../numerics/index.ts';

export interface AlignmentLimits {
	/** Largest residual, and stretch at the farthest opening, µm. */
	maxUm: number;
	/** A fit without the bad mark is at most this, µm. */
	cleanUm: number;
	travelMm: number;
	travelDeg: number;
	/** Repeatability of one reading, µm. */
	readingUm: number;
}

/** @see common practice; the printer's manual states travel and repeatability */
export const ALIGNMENT_LIMITS: AlignmentLimits = { maxUm: 25, cleanUm: 12.5, travelMm: 5, travelDeg: 2, readingUm: 5 };
const LEAST_BASELINE_MM = 20;

export type AlignmentCode = 'ok' | 'mirrored' | 'backwards' | 'fiducial_suspect' | 'travel' | 'stretch' | 'residual_high';

/** The numbers of an alignment, without the words. */
export interface AlignmentFit {
	/** Turn and move of the stencil about the stage's centre. */
	thetaDeg: number;
	dxMm: number;
	dyMm: number;
	/** The same move written about the frame's origin: another translation. */
	originTxMm: number;
	originTyMm: number;
	/** Board relative to stencil. */
	stretchPpm: number;
	stretchStandardErrorPpm: number;
	stretchProven: boolean;
	/** From three marks on; null with two. */
	xPpm: number | null;
	yPpm: number | null;
	shearPpm: number | null;
	residuals: { dxUm: number; dyUm: number; lengthUm: number }[];
	rmsUm: number;
	maxUm: number;
	/** 2n − 3: two marks leave one redundancy, the distance. */
	freedom: number;
	code: AlignmentCode;
	suspect: number | null;
	/** Stretch at the farthest opening, µm. */
	stretchUm: number;
	/** What the farthest opening is off by after the move, µm. */
	worstPadUm: number;
}

export interface Alignment extends AlignmentFit {
	verdict: Verdict;
}

interface Fit {
	theta: number;
	scale: number;
	sx: number;
	sy: number;
	bx: number;
	by: number;
	squares: number;
	rms: number;
	max: number;
}

/** Rigid or similarity fit of board marks on stencil marks. Leaves out one mark where `without` ≥ 0. */
function fit(s: readonly Point[], b: readonly Point[], similarity: boolean, without: number, mirror: number): Fit {
	let sx = 0;
	let sy = 0;
	let bx = 0;
	let by = 0;
	let n = 0;
	for (let i = 0; i < s.length; i++) {
		if (i === without) continue;
		sx += mirror * s[i]!.x;
		sy += s[i]!.y;
		bx += b[i]!.x;
		by += b[i]!.y;
		n++;
	}
	sx /= n;
	sy /= n;
	bx /= n;
	by /= n;
	// c = Σ conj(s′)·b′
	let re = 0;
	let im = 0;
	let squares = 0;
	for (let i = 0; i < s.length; i++) {
		if (i === without) continue;
		const ux = mirror * s[i]!.x - sx;
		const uy = s[i]!.y - sy;
		const vx = b[i]!.x - bx;
		const vy = b[i]!.y - by;
		re += ux * vx + uy * vy;
		im += ux * vy - uy * vx;
		squares += ux * ux + uy * uy;
	}
	const theta = Math.atan2(im, re);
	const size = Math.sqrt(re * re + im * im) / squares;
	const k = similarity ? size : 1;
	const c = k * Math.cos(theta);
	const d = k * Math.sin(theta);
	let sum = 0;
	let max = 0;
	for (let i = 0; i < s.length; i++) {
		if (i === without) continue;
		const ux = mirror * s[i]!.x - sx;
		const uy = s[i]!.y - sy;
		const ex = b[i]!.x - bx - (c * ux - d * uy);
		const ey = b[i]!.y - by - (d * ux + c * uy);
		const e = ex * ex + ey * ey;
		sum += e;
		if (e > max) max = e;
	}
	return { theta, scale: size, sx, sy, bx, by, squares, rms: Math.sqrt(sum / n), max: Math.sqrt(max) };
}

/** Aligns a stencil to a board from fiducial readings in one machine frame, and judges whether a stage move can cure what is seen.
 * Rigid: both centred, c = Σ conj(s′)·b′, θ = arg c; the stencil moves about the stage centre C: d = b̄ − C − R(s̄ − C).
 * @param stencil marks, mm; @param board the same marks on the board, mm, same order
 * @param centre stage centre, mm
 * @param rMaxMm farthest opening from the middle of the marks, mm
 * @returns residuals are never "0, perfect" with two marks: their distance is one redundancy, for a similarity none is left
 * @throws {InputError} `mismatch`, `not-finite`, `out-of-range` where there are fewer than two marks or they lie within 20 mm
 * @see least squares in the plane; limits are common practice. checks/print-alignment.test.ts compares with ml-matrix
 */
export function fitAlignment(
	stencil: readonly Point[],
	board: readonly Point[],
	centre: Point,
	rMaxMm: number,
	limits: AlignmentLimits = ALIGNMENT_LIMITS
): AlignmentFit {
	const n = stencil.length;
	if (n !== board.length) throw new InputError('mismatch', 'board', `${n} marks, as on the stencil`, board.length);
	if (n < 2) throw new InputError('out-of-range', 'stencil', 'at least two marks', n);
	let baseline = 0;
	for (let i = 0; i < n; i++) {
		const s = stencil[i]!;
		const b = board[i]!;
		if (!Number.isFinite(s.x + s.y)) throw new InputError('not-finite', `stencil[${i}]`, 'two numbers', s);
		if (!Number.isFinite(b.x + b.y)) throw new InputError('not-finite', `board[${i}]`, 'two numbers', b);
		for (let j = 0; j < i; j++) {
			const dx = s.x - stencil[j]!.x;
			const dy = s.y - stencil[j]!.y;
			baseline = Math.max(baseline, dx * dx + dy * dy);
		}
	}
	baseline = Math.sqrt(baseline);
	if (baseline < LEAST_BASELINE_MM)
		throw new InputError('out-of-range', 'stencil', `marks at least ${LEAST_BASELINE_MM} mm apart`, Number(baseline.toFixed(3)));

	const f = fit(stencil, board, false, -1, 1);
	const [c, d] = [Math.cos(f.theta), Math.sin(f.theta)];
	const [ux, uy] = [f.sx - centre.x, f.sy - centre.y];
	const dxMm = f.bx - centre.x - (c * ux - d * uy);
	const dyMm = f.by - centre.y - (d * ux + c * uy);
	const residuals = new Array<AlignmentFit['residuals'][number]>(n);
	for (let i = 0; i < n; i++) {
		const px = stencil[i]!.x - f.sx;
		const py = stencil[i]!.y - f.sy;
		const dxUm = 1000 * (board[i]!.x - f.bx - (c * px - d * py));
		const dyUm = 1000 * (board[i]!.y - f.by - (d * px + c * py));
		residuals[i] = { dxUm, dyUm, lengthUm: Math.sqrt(dxUm * dxUm + dyUm * dyUm) };
	}
	const ppm = (f.scale - 1) * 1e6;
	const errorPpm = (limits.readingUm / 1000 / Math.sqrt(f.squares)) * 1e6;
	const uneven = n >= 3 ? affine(stencil, board, f) : null;
	const base: AlignmentFit = {
		thetaDeg: (f.theta * 180) / Math.PI,
		dxMm,
		dyMm,
		originTxMm: dxMm + (1 - c) * centre.x + d * centre.y,
		originTyMm: dyMm - d * centre.x + (1 - c) * centre.y,
		stretchPpm: ppm,
		stretchStandardErrorPpm: errorPpm,
		stretchProven: Math.abs(ppm) >= 3 * errorPpm,
		xPpm: uneven?.x ?? null,
		yPpm: uneven?.y ?? null,
		shearPpm: uneven?.shear ?? null,
		residuals,
		rmsUm: 1000 * f.rms,
		maxUm: 1000 * f.max,
		freedom: 2 * n - 3,
		code: 'ok',
		suspect: null,
		stretchUm: 0,
		worstPadUm: 0
	};
	const stretchUm = Math.abs(ppm) * 1e-3 * rMaxMm;
	const { code, suspect } = codeOf(stencil, board, f, base, stretchUm, limits);
	const rms = base.rmsUm / Math.sqrt(n);
	base.code = code;
	base.suspect = suspect;
	base.stretchUm = stretchUm;
	base.worstPadUm = Math.sqrt(stretchUm * stretchUm + rms * rms);
	return base;
}

/** The same with its verdict in words. */
export function align(
	stencil: readonly Point[],
	board: readonly Point[],
	centre: Point,
	rMaxMm: number,
	limits: AlignmentLimits = ALIGNMENT_LIMITS
): Alignment {
	const fitted = fitAlignment(stencil, board, centre, rMaxMm, limits);
	return { ...fitted, verdict: judgeAlignment(fitted.code, fitted.suspect, fitted, fitted.stretchUm, fitted.worstPadUm, rMaxMm, limits) };
}

function affine(s: readonly Point[], b: readonly Point[], f: Fit): { x: number; y: number; shear: number } | null {
	let sxx = 0;
	let sxy = 0;
	let syy = 0;
	let bxx = 0;
	let bxy = 0;
	let byx = 0;
	let byy = 0;
	for (let i = 0; i < s.length; i++) {
		const ux = s[i]!.x - f.sx;
		const uy = s[i]!.y - f.sy;
		const vx = b[i]!.x - f.bx;
		const vy = b[i]!.y - f.by;
		sxx += ux * ux;
		sxy += ux * uy;
		syy += uy * uy;
		bxx += vx * ux;
		bxy += vx * uy;
		byx += vy * ux;
		byy += vy * uy;
	}
	const det = sxx * syy - sxy * sxy;
	// Marks on one line say nothing across it.
	if (det < 1e-9 * (sxx + syy) ** 2) return null;
	const m00 = (bxx * syy - bxy * sxy) / det;
	const m01 = (bxy * sxx - bxx * sxy) / det;
	const m10 = (byx * syy - byy * sxy) / det;
	const m11 = (byy * sxx - byx * sxy) / det;
	// Polar split M = R·U of a 2 × 2 matrix: the turn is that of M + det-sign cofactor.
	const turn = Math.atan2(m10 - m01, m00 + m11);
	const [c, d] = [Math.cos(turn), Math.sin(turn)];
	return { x: 1e6 * (c * m00 + d * m10 - 1), y: 1e6 * (c * m11 - d * m01 - 1), shear: 1e6 * (c * m01 + d * m11) };
}

function codeOf(
	stencil: readonly Point[],
	board: readonly Point[],
	f: Fit,
	a: Pick<AlignmentFit, 'thetaDeg' | 'dxMm' | 'dyMm'>,
	stretchUm: number,
	limits: AlignmentLimits
): { code: AlignmentCode; suspect: number | null } {
	const n = stencil.length;
	if (n >= 3 && f.rms > 0.5 && fit(stencil, board, false, -1, -1).rms < 0.1 * f.rms) return { code: 'mirrored', suspect: null };
	if (180 - Math.abs(a.thetaDeg) <= 5) return { code: 'backwards', suspect: null };
	if (n >= 4 && 1000 * fit(stencil, board, true, -1, 1).max > limits.maxUm) {
		let found = -1;
		let count = 0;
		for (let k = 0; k < n; k++)
			if (1000 * fit(stencil, board, true, k, 1).max <= limits.cleanUm) {
				found = k;
				count++;
			}
		if (count === 1) return { code: 'fiducial_suspect', suspect: found };
	}
	if (Math.abs(a.dxMm) > limits.travelMm || Math.abs(a.dyMm) > limits.travelMm || Math.abs(a.thetaDeg) > limits.travelDeg)
		return { code: 'travel', suspect: null };
	if (stretchUm > limits.maxUm) return { code: 'stretch', suspect: null };
	if (1000 * f.max > limits.maxUm) return { code: 'residual_high', suspect: null };
	return { code: 'ok', suspect: null };
}

function judgeAlignment(
	code: AlignmentCode,
	suspect: number | null,
	a: Pick<AlignmentFit, 'thetaDeg' | 'dxMm' | 'dyMm' | 'stretchPpm' | 'stretchProven' | 'maxUm' | 'rmsUm' | 'freedom' | 'residuals'>,
	stretchUm: number,
	worstPadUm: number,
	rMaxMm: number,
	limits: AlignmentLimits
): Verdict {
	const sentences: Record<AlignmentCode, [Verdict['level'], string, string[]]> = {
		ok: ['good', `Aligned; the farthest opening is off by about ${worstPadUm.toFixed(0)} µm.`, []],
		mirrored: ['stopped', 'Wrong side or wrong stencil: the marks fit only as a mirror image.', ['Compare stencil, side and panel']],
		backwards: ['stopped', 'Loaded backwards: the marks fit after half a turn.', ['Turn the panel round']],
		fiducial_suspect: [
			'act',
			`Mark ${(suspect ?? 0) + 1} is suspect: without it the others fit.`,
			[`Look at mark ${(suspect ?? 0) + 1}: misread, damaged, or paste on it`]
		],
		travel: ['act', 'The stage cannot move that far.', ['Load the panel and the stencil again', 'Compare the stencil with the job']],
		stretch: [
			'act',
			`This board is ${a.stretchPpm > 0 ? 'larger' : 'smaller'} than the stencil by ${Math.abs(a.stretchPpm).toFixed(0)} ppm, ${stretchUm.toFixed(0)} µm at the farthest opening: no move of the stage cures it.`,
			['Sort these boards: they are stretched', 'Measure more boards of the lot']
		],
		residual_high: [
			'act',
			`The marks miss by up to ${a.maxUm.toFixed(0)} µm: warp, shear or a bad clamp.`,
			['Clamp the panel again', 'Check the support']
		]
	};
	const [level, statement, doNext] = sentences[code];
	return {
		level,
		statement,
		doNext,
		because: [
			{
				quantity: 'Move of the stencil about the stage centre',
				value: `${a.dxMm.toFixed(3)}, ${a.dyMm.toFixed(3)} mm, ${a.thetaDeg.toFixed(4)}°`,
				unit: '',
				limit: `${limits.travelMm} mm, ${limits.travelDeg}°`,
				source: 'common practice; the printer’s manual',
				formula: 'd = b̄ − C − R(s̄ − C)'
			},
			{
				quantity: 'Largest residual',
				value: a.maxUm,
				unit: 'µm',
				limit: `at most ${limits.maxUm} µm`,
				source: 'common practice',
				formula: `RMS ${a.rmsUm.toFixed(3)} µm over ${a.residuals.length} marks, ${a.freedom} to spare${a.freedom === 1 ? ': only the distance of the two marks is checked' : ''}`
			},
			{
				quantity: 'Stretch of the board at the farthest opening',
				value: stretchUm,
				unit: 'µm',
				limit: `at most ${limits.maxUm} µm`,
				source: 'common practice',
				formula: `${a.stretchPpm.toFixed(1)} ppm · ${rMaxMm.toFixed(0)} mm${a.stretchProven ? '' : ' (not proven: within three standard errors)'}`
			}
		]
	};
}

/** Alignment tolerance of a job, µm: 20 % of the narrowest fine pad, 25 µm at 0.4 mm pitch (common practice). */
export function jobToleranceUm(fineParts: readonly { padWidthMm: number; pitchMm: number | null }[]): number {
	return Math.min(
		50,
		...fineParts.map((p) => (p.pitchMm !== null && atMost(p.pitchMm, 0.4) ? Math.min(25, 200 * p.padWidthMm) : 200 * p.padWidthMm))
	);
}

export interface StretchGroup {
	/** Scale of the stencil, ppm. */
	scalePpm: number;
	lowPpm: number;
	highPpm: number;
	/** Indices of the boards. */
	boards: number[];
}

/** The fewest scaled stencils so that every board is within tolerance at the farthest opening: sorted, greedy intervals of 2·tol·1000/r_max ppm (optimal).
 * @param ppm stretch of each board; @param tolUm tolerance at rMaxMm
 */
export function sortStretched(ppm: readonly number[], rMaxMm: number, tolUm: number): StretchGroup[] {
	if (!(rMaxMm > 0)) throw new InputError('out-of-range', 'rMaxMm', 'more than 0 mm', rMaxMm);
	if (!(tolUm > 0)) throw new InputError('out-of-range', 'tolUm', 'more than 0 µm', tolUm);
	ppm.forEach((v, i) => {
		if (!Number.isFinite(v)) throw new InputError('not-finite', `ppm[${i}]`, 'a number', v);
	});
	const width = (2 * tolUm * 1000) / rMaxMm;
	const order = ppm.map((_, i) => i).sort((a, b) => ppm[a]! - ppm[b]!);
	const groups: StretchGroup[] = [];
	for (const i of order) {
		const last = groups.at(-1);
		if (last && atMost(ppm[i]! - last.lowPpm, width)) {
			last.boards.push(i);
			last.highPpm = ppm[i]!;
			last.scalePpm = (last.lowPpm + last.highPpm) / 2;
		} else groups.push({ scalePpm: ppm[i]!, lowPpm: ppm[i]!, highPpm: ppm[i]!, boards: [i] });
	}
	return groups;
}

/** Boards that a stencil of the drawn size cannot meet at the farthest opening, and scaled ones can. */
export function rescuedByScaling(ppm: readonly number[], rMaxMm: number, tolUm: number): number {
	return ppm.filter((v) => above((Math.abs(v) * rMaxMm) / 1000, tolUm)).length;
}
