import type { Point } from '../geometry/index.ts';
import { InputError, requireRange } from '../judgement/index.ts';
import { leastSquares } from '../numerics/index.ts';

export interface FiducialLimits {
	rotationDeg: number;
	scaleWarnPpm: number;
	scaleRejectPpm: number;
	residualWarnUm: number;
	residualRejectUm: number;
}

/** @see common practice; each machine and plant has its own */
export const FIDUCIAL_LIMITS: FiducialLimits = {
	rotationDeg: 3,
	scaleWarnPpm: 500,
	scaleRejectPpm: 1000,
	residualWarnUm: 50,
	residualRejectUm: 100
};

export type FiducialCode =
	| 'ok'
	| 'reject_rotation_over_limit'
	| 'reject_scale_over_limit'
	| 'reject_residual_over_limit'
	| 'warn_scale'
	| 'warn_residual'
	/** Two marks: their distance is judged, a residual there is none. */
	| 'impossible_with_2_points';

/** A map of the plane with its parts: x' = a·x + b·y + tx, y' = c·x + d·y + ty. */
export interface PlaneMap {
	a: number;
	b: number;
	c: number;
	d: number;
	tx: number;
	ty: number;
}

export interface FiducialFit {
	map: PlaneMap;
	/** What a part's angle turns by. */
	rotationDeg: number;
	/** Of the columns; both the same where the fit may not stretch unevenly. */
	scaleX: number;
	scaleY: number;
	/** Measured less fitted, µm, by mark. */
	residuals: { dxUm: number; dyUm: number; lengthUm: number }[];
	/** √(mean of the squared lengths), µm. Three marks fit an uneven map exactly: that proves nothing. */
	rmsUm: number;
	/** Residual of the even map beside it, µm: what an uneven one hides. */
	evenRmsUm: number;
	codes: FiducialCode[];
	/** Number of the mark that the others disagree with, and how far it is off them; null: none, or fewer than four. */
	suspect: { mark: number; offUm: number } | null;
	/** What is to be said, the gravest first. */
	words: string;
}

const degreesOf = (radians: number) => (radians * 180) / Math.PI;
const centreOf = (points: readonly Point[]): Point => ({
	x: points.reduce((sum, p) => sum + p.x, 0) / points.length,
	y: points.reduce((sum, p) => sum + p.y, 0) / points.length
});

/** Turn, one scale and a move: centred p and q, θ = atan2(Σp×q, Σp·q), s = √(…)/Σ|p|². */
function even(nominal: readonly Point[], measured: readonly Point[]): PlaneMap {
	const [p, q] = [centreOf(nominal), centreOf(measured)];
	let [dot, cross, squares] = [0, 0, 0];
	nominal.forEach(({ x, y }, i) => {
		const [px, py] = [x - p.x, y - p.y];
		const [qx, qy] = [measured[i]!.x - q.x, measured[i]!.y - q.y];
		dot += px * qx + py * qy;
		cross += px * qy - py * qx;
		squares += px * px + py * py;
	});
	const [a, c] = [dot / squares, cross / squares];
	return { a, b: -c, c, d: a, tx: q.x - (a * p.x - c * p.y), ty: q.y - (c * p.x + a * p.y) };
}

/** Every map that keeps straight lines straight, by least squares; three marks and more that do not lie in a line. */
function uneven(nominal: readonly Point[], measured: readonly Point[]): PlaneMap {
	const rows = nominal.map(({ x, y }) => [x, y, 1]);
	const solve = (values: number[]) => leastSquares(rows, values).coefficients as [number, number, number];
	const [a, b, tx] = solve(measured.map((m) => m.x));
	const [c, d, ty] = solve(measured.map((m) => m.y));
	return { a, b, c, d, tx, ty };
}

const through = ({ a, b, c, d, tx, ty }: PlaneMap, { x, y }: Point): Point => ({ x: a * x + b * y + tx, y: c * x + d * y + ty });

function left(map: PlaneMap, nominal: readonly Point[], measured: readonly Point[]) {
	const residuals = nominal.map((p, i) => {
		const fitted = through(map, p);
		const [dxUm, dyUm] = [1000 * (measured[i]!.x - fitted.x), 1000 * (measured[i]!.y - fitted.y)];
		return { dxUm, dyUm, lengthUm: Math.hypot(dxUm, dyUm) };
	});
	return { residuals, rmsUm: Math.sqrt(residuals.reduce((sum, r) => sum + r.lengthUm ** 2, 0) / residuals.length) };
}

/** Where a placer's camera found the marks of a panel, circuit or part: how its places are turned, stretched and moved, and whether that can be believed.
 * @param nominal marks of the program, mm; @param measured the same marks as they were found, mm, same order
 * @param kind `even` keeps right angles (two marks and more), `uneven` may stretch and shear (three and more)
 * @throws {InputError} `mismatch`, `not-finite`, `out-of-range` where there are too few marks or they lie in one place or line
 */
export function fitFiducials(
	nominal: readonly Point[],
	measured: readonly Point[],
	kind: 'even' | 'uneven' = 'even',
	limits: FiducialLimits = FIDUCIAL_LIMITS
): FiducialFit {
	const n = nominal.length;
	if (n !== measured.length) throw new InputError('mismatch', 'measured', `${n} marks, as in the program`, measured.length);
	const least = kind === 'even' ? 2 : 3;
	if (n < least) throw new InputError('out-of-range', 'nominal', `at least ${least} marks`, n);
	for (const [field, marks] of [['nominal', nominal] as const, ['measured', measured] as const])
		marks.forEach((m, i) => {
			if (!Number.isFinite(m.x + m.y)) throw new InputError('not-finite', `${field}.${i}`, 'two numbers', m);
		});
	if (widthAcross(nominal) < 1 && (kind === 'uneven' || lengthOf(nominal) < 1))
		throw new InputError(
			'out-of-range',
			'nominal',
			kind === 'even' ? 'marks at least 1 mm apart' : 'three marks that do not lie in a line',
			n
		);
	const evenMap = even(nominal, measured);
	const map = kind === 'even' ? evenMap : uneven(nominal, measured);
	const { residuals, rmsUm } = left(map, nominal, measured);
	const evenRmsUm = kind === 'even' ? rmsUm : left(evenMap, nominal, measured).rmsUm;
	const base = {
		map,
		rotationDeg: degreesOf(Math.atan2(map.c - map.b, map.a + map.d)),
		scaleX: Math.hypot(map.a, map.c),
		scaleY: Math.hypot(map.b, map.d),
		residuals,
		rmsUm,
		evenRmsUm,
		suspect: n >= 4 ? suspectOf(nominal, measured, limits) : null
	};
	return { ...base, ...judged(base, n, limits) };
}

function judged(fit: Omit<FiducialFit, 'codes' | 'words'>, n: number, limits: FiducialLimits): Pick<FiducialFit, 'codes' | 'words'> {
	const offPpm = Math.max(Math.abs(fit.scaleX - 1), Math.abs(fit.scaleY - 1)) * 1e6;
	const worstUm = Math.max(...fit.residuals.map((r) => r.lengthUm));
	const found: [FiducialCode, string][] = [];
	if (Math.abs(fit.rotationDeg) > limits.rotationDeg)
		found.push([
			'reject_rotation_over_limit',
			Math.abs(fit.rotationDeg) >= 180 - limits.rotationDeg
				? 'The board lies turned by half a turn, or the marks are swapped.'
				: `The board lies turned by ${fit.rotationDeg.toFixed(2)}°: at most ${limits.rotationDeg}° are believed.`
		]);
	if (offPpm > limits.scaleRejectPpm)
		found.push([
			'reject_scale_over_limit',
			`The marks lie ${offPpm.toFixed(0)} ppm too far apart or too near: another board, or a wrong mark.`
		]);
	if (n > 2 && worstUm > limits.residualRejectUm)
		found.push([
			'reject_residual_over_limit',
			fit.suspect
				? `Mark ${fit.suspect.mark + 1} is ${(fit.suspect.offUm / 1000).toFixed(2)} mm off: dirty, or a via was taken for it. Run on the others?`
				: `A mark is ${worstUm.toFixed(0)} µm off; which one cannot be told from ${n}.`
		]);
	if (found.length === 0 && offPpm > limits.scaleWarnPpm)
		found.push(['warn_scale', `The board is ${offPpm.toFixed(0)} ppm off its drawing.`]);
	if (found.length === 0 && n > 2 && worstUm > limits.residualWarnUm)
		found.push(['warn_residual', `A mark is ${worstUm.toFixed(0)} µm off.`]);
	if (found.length === 0) found.push(['ok', 'The marks agree.']);
	if (n === 2) found.push(['impossible_with_2_points', 'Two marks show their distance and nothing else.']);
	return { codes: found.map(([code]) => code), words: found[0]![1] };
}

/** The mark without which the others agree best, where it lies too far from where they put it. */
function suspectOf(nominal: readonly Point[], measured: readonly Point[], limits: FiducialLimits): FiducialFit['suspect'] {
	const without = nominal.map((p, i) => {
		const [others, seen] = [nominal.filter((_, k) => k !== i), measured.filter((_, k) => k !== i)];
		const map = even(others, seen);
		const fitted = through(map, p);
		return {
			mark: i,
			rmsUm: left(map, others, seen).rmsUm,
			offUm: 1000 * Math.hypot(measured[i]!.x - fitted.x, measured[i]!.y - fitted.y)
		};
	});
	const best = without.reduce((a, b) => (b.rmsUm < a.rmsUm ? b : a));
	return best.offUm > limits.residualRejectUm ? { mark: best.mark, offUm: best.offUm } : null;
}

/** A part of the program where the board really lies, its angle in 0 to 360°. */
export function placedBy(fit: Pick<FiducialFit, 'map' | 'rotationDeg'>, part: { xMm: number; yMm: number; rotationDeg: number }) {
	const { x, y } = through(fit.map, { x: part.xMm, y: part.yMm });
	return { xMm: x, yMm: y, rotationDeg: (((part.rotationDeg + fit.rotationDeg) % 360) + 360) % 360 };
}

/** How far a place can be off for what the marks are read wrong by: σ·√(1/n + |r − p̄|²/Σ|pᵢ − p̄|²), µm, along each axis.
 * @example placeErrorUm(12, [{ x: 0, y: 0 }, { x: 200, y: 0 }], { x: 200, y: 0 }) // => 12
 */
export function placeErrorUm(markUm: number, marks: readonly Point[], place: Point): number {
	requireRange('markUm', markUm, 0, 1e4, 'µm');
	if (marks.length < 2) throw new InputError('out-of-range', 'marks', 'at least two marks', marks.length);
	const centre = centreOf(marks);
	const squares = marks.reduce((sum, m) => sum + (m.x - centre.x) ** 2 + (m.y - centre.y) ** 2, 0);
	if (!(squares > 0)) throw new InputError('out-of-range', 'marks', 'marks apart from one another', marks.length);
	return markUm * Math.sqrt(1 / marks.length + ((place.x - centre.x) ** 2 + (place.y - centre.y) ** 2) / squares);
}

/** How well a camera reads a mark, one sigma, µm (ours): each machine's papers say its own. */
export const MARK_UM = 12;

/** How far a part can be off for its marks, by the finest there are: two beside it, those of its circuit, those of the panel. One mark beside it moves it only.
 * @param part in its circuit's frame; @param onPanel where a point of that circuit lies on the panel
 * @returns null where there are fewer than two marks of any kind
 */
export function partErrorUm(
	markUm: number,
	part: { refDes: string; xMm: number; yMm: number },
	marks: { panel: readonly Point[]; circuit: readonly Point[]; local: readonly { refDes: string; marks: readonly Point[] }[] },
	onPanel: (p: Point) => Point
): { um: number; by: 'local' | 'circuit' | 'panel' } | null {
	const at = { x: part.xMm, y: part.yMm };
	const own = marks.local.find(({ refDes }) => refDes === part.refDes)?.marks ?? [];
	if (own.length === 1) return { um: markUm, by: 'local' };
	if (own.length > 1) return { um: placeErrorUm(markUm, own, at), by: 'local' };
	if (marks.circuit.length > 1) return { um: placeErrorUm(markUm, marks.circuit, at), by: 'circuit' };
	if (marks.panel.length > 1) return { um: placeErrorUm(markUm, marks.panel, onPanel(at)), by: 'panel' };
	return null;
}

/** Largest distance between two marks, mm. */
const lengthOf = (marks: readonly Point[]) => Math.max(...marks.flatMap((a) => marks.map((b) => Math.hypot(a.x - b.x, a.y - b.y))));

/** Narrowest width of the marks over all directions between two of them, mm: 0 where they lie in a line. */
function widthAcross(marks: readonly Point[]): number {
	const [a, b] = marks.flatMap((p) => marks.map((q) => [p, q] as const)).reduce((one, other) => (gap(other) > gap(one) ? other : one));
	const long = Math.hypot(b.x - a.x, b.y - a.y);
	if (long === 0) return 0;
	return Math.max(...marks.map((m) => Math.abs((b.x - a.x) * (m.y - a.y) - (b.y - a.y) * (m.x - a.x)) / long));
}
const gap = ([p, q]: readonly [Point, Point]) => Math.hypot(p.x - q.x, p.y - q.y);
