import { noData, type Reason, type Verdict } from '../judgement/index.ts';
import type { Point } from '../geometry/index.ts';

/** Least tension of a foil, and what a new one has, N/cm (common practice). */
export const TENSION_N_PER_CM = { least: 30, fresh: 40 } as const;
/** Points that are measured. */
export const TENSION_POINTS = 5;
/** Blades are replaced after this many strokes at the latest, or at a nick (common practice). */
export const BLADE_STROKES = { watch: 20_000, act: 40_000 } as const;

/** Judges the tension readings of a stencil. */
export function judgeTension(
	readings: readonly { x: number; y: number; nPerCm: number }[],
	leastNPerCm: number = TENSION_N_PER_CM.least
): Verdict {
	if (readings.length < TENSION_POINTS)
		return noData(`Tension: ${readings.length} of ${TENSION_POINTS} points measured.`, ['Measure the corners and the middle']);
	const values = readings.map((r) => r.nPerCm);
	const [low, high] = [Math.min(...values), Math.max(...values)];
	const because: Reason[] = [
		{ quantity: 'Lowest tension', value: low, unit: 'N/cm', limit: `at least ${leastNPerCm}`, source: 'common practice' },
		{ quantity: 'Spread over the foil', value: high - low, unit: 'N/cm', limit: 'even: at most 10', source: 'common practice' }
	];
	if (low < leastNPerCm)
		return {
			level: 'stopped',
			statement: `Tension ${low.toFixed(0)} N/cm: too low, the foil sags and drags.`,
			because,
			doNext: ['Take another stencil', 'Have it stretched again']
		};
	if (high - low > 10 || low < leastNPerCm + 3)
		return {
			level: 'watch',
			statement: `Tension ${low.toFixed(0)} to ${high.toFixed(0)} N/cm: ${high - low > 10 ? 'uneven' : 'close to the limit'}.`,
			because,
			doNext: ['Measure again at the next clean']
		};
	return { level: 'good', statement: `Tension ${low.toFixed(0)} to ${high.toFixed(0)} N/cm.`, because, doNext: [] };
}

export interface StencilMakeUp {
	code: string;
	board: string;
	revision: string;
	side: 'top' | 'bottom';
	/** Circuits that it prints. */
	circuits: number;
	/** Marks, in the panel's frame, mm. */
	fiducials: Point[];
	foilUm: number;
	state: 'usable' | 'blocked' | 'scrapped';
	damage: string | null;
}

/** Whether a scanned stencil may print this job: by revision, side, panel and marks, never by a file's name.
 * @returns every reason against it, each with what would make it right
 */
export function refusesStencil(
	stencil: StencilMakeUp,
	job: Omit<StencilMakeUp, 'code' | 'state' | 'damage' | 'foilUm'> & { foilUm: number | null }
): { code: string; why: string; fix: string }[] {
	const out: { code: string; why: string; fix: string }[] = [];
	const no = (code: string, why: string, fix: string) => out.push({ code, why, fix });
	if (stencil.state !== 'usable')
		no(
			'not_usable',
			`${stencil.code} is ${stencil.state}${stencil.damage ? `: ${stencil.damage}` : ''}.`,
			'Take another stencil, or have this one released'
		);
	if (stencil.board !== job.board) {
		no('wrong_board', `${stencil.code} prints ${stencil.board}; this job is ${job.board}.`, `Fetch the stencil for ${job.board}`);
		return out;
	}
	if (stencil.revision !== job.revision)
		no(
			'wrong_revision',
			`${stencil.code} is for revision ${stencil.revision}; this job is revision ${job.revision}.`,
			`Fetch the stencil for revision ${job.revision}`
		);
	if (stencil.side !== job.side)
		no(
			'wrong_side',
			`${stencil.code} prints the ${stencil.side}; this run is the ${job.side}. On the wrong side it is a mirror image.`,
			`Fetch the stencil for the ${job.side}`
		);
	if (stencil.circuits !== job.circuits)
		no(
			'wrong_panel',
			`${stencil.code} has ${stencil.circuits} circuits; this panel has ${job.circuits}.`,
			'Fetch the stencil for this panel'
		);
	else if (stencil.side === job.side && !sameMarks(stencil.fiducials, job.fiducials))
		no('wrong_marks', `The marks of ${stencil.code} do not lie where this panel has them.`, 'Fetch the stencil for this panel');
	if (job.foilUm !== null && Math.abs(stencil.foilUm - job.foilUm) > 1)
		no('wrong_foil', `${stencil.code} is ${stencil.foilUm} µm; ${job.foilUm} µm is released.`, `Fetch the stencil of ${job.foilUm} µm`);
	return out;
}

function sameMarks(a: readonly Point[], b: readonly Point[]): boolean {
	return a.length === b.length && a.every((p) => b.some((q) => Math.hypot(p.x - q.x, p.y - q.y) < 0.05));
}

/** How a blade stands by its strokes. */
export function judgeBlade(strokes: number, nicked: boolean): Verdict {
	const because: Reason[] = [
		{
			quantity: 'Strokes',
			value: strokes,
			unit: '',
			limit: `replace between ${BLADE_STROKES.watch} and ${BLADE_STROKES.act}`,
			source: 'common practice'
		}
	];
	if (nicked) return { level: 'act', statement: 'The blade has a nick.', because, doNext: ['Replace the blade'] };
	if (strokes >= BLADE_STROKES.act)
		return { level: 'act', statement: `${strokes} strokes: replace the blade.`, because, doNext: ['Replace the blade'] };
	if (strokes >= BLADE_STROKES.watch)
		return { level: 'watch', statement: `${strokes} strokes: look at its edge.`, because, doNext: ['Look at the edge at the next clean'] };
	return { level: 'good', statement: `${strokes} strokes.`, because, doNext: [] };
}

/** A stencil that stands in the printer while no run is on; null where it was washed since its last print. */
export function judgeLeftStencil(code: string, printedMs: number | null, cleanedMs: number | null): Verdict | null {
	if (printedMs === null || (cleanedMs !== null && cleanedMs >= printedMs)) return null;
	return {
		level: 'watch',
		statement: `${code} stands in the printer and was not washed since its last print.`,
		because: [],
		doNext: [`Take ${code} out and wash it`]
	};
}
