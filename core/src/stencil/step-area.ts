import type { Verdict } from '../judgement/index.ts';
import { type Box, boxOf, boxesTouch } from '../geometry/index.ts';
import { stepInsideMm, stepKeepOutMm } from './choose-foil.ts';
import { openingGap, type WebOpening } from './web.ts';
import { below } from '../numerics/index.ts';

export interface StepArea {
	/** Rectangles to be stepped down, mm: one for each part with openings in the step. */
	boxes: Box[];
	keepOutMm: number;
	/** The pair that stands nearest across the edge; null where nothing is near. */
	nearest: { inside: number; outside: number; gapMm: number } | null;
	/** Openings nearer to one in the step than the keep-out allows. */
	tooNear: number[];
}

/** Where a foil is stepped down, and whether the openings outside keep clear of it.
 * @param inStep indices of the openings in the step; @param depthUm of the step
 */
export function stepArea(
	openings: readonly (WebOpening & { refDes: string | null })[],
	inStep: readonly number[],
	depthUm: number
): StepArea {
	const keepOutMm = stepKeepOutMm(depthUm);
	const margin = stepInsideMm(depthUm);
	const within = new Set(inStep);
	const boxes = openings.map((o) => boxOf(o.outline));
	const parts = new Map<string, number[]>();
	for (const i of inStep) {
		const key = openings[i]!.refDes ?? `opening ${i}`;
		const own = parts.get(key);
		if (own) own.push(i);
		else parts.set(key, [i]);
	}
	let nearest: StepArea['nearest'] = null;
	const tooNear: number[] = [];
	openings.forEach((o, outside) => {
		if (within.has(outside)) return;
		let least = Infinity;
		for (const inside of inStep) {
			if (!boxesTouch(boxes[inside]!, boxes[outside]!, keepOutMm)) continue;
			const gapMm = openingGap(openings[inside]!, o);
			least = Math.min(least, gapMm);
			if (!nearest || gapMm < nearest.gapMm) nearest = { inside, outside, gapMm };
		}
		if (below(least, keepOutMm)) tooNear.push(outside);
	});
	return {
		boxes: [...parts.values()].map((own) => {
			const { minX, minY, maxX, maxY } = boxOf(own.flatMap((i) => openings[i]!.outline));
			return { minX: minX - margin, minY: minY - margin, maxX: maxX + margin, maxY: maxY + margin };
		}),
		keepOutMm,
		nearest,
		tooNear
	};
}

/** Whether the openings outside a step keep clear of it, the nearest pair named. */
export function judgeStepArea({ tooNear, nearest, keepOutMm }: StepArea, nameOf: (opening: number) => string): Verdict {
	return {
		level: tooNear.length ? 'act' : 'good',
		statement:
			tooNear.length && nearest
				? `${tooNear.length} openings stand too near the step: ${nameOf(nearest.outside)}, ${nearest.gapMm.toFixed(2)} mm from ${nameOf(nearest.inside)}.`
				: 'Every opening outside keeps clear of the step.',
		because: [
			{
				quantity: 'Nearest pair across the edge of the step',
				value: nearest?.gapMm ?? null,
				unit: 'mm',
				limit: `at least ${keepOutMm.toFixed(2)}`,
				source: 'IPC-7525 (value from memory): 0.9 mm for each 25 µm inside, 0.65 mm outside'
			}
		],
		doNext: tooNear.length ? ['Move those parts, or choose another foil, wall or need'] : []
	};
}

/** What each opening has to deliver where a part's joints need so much, mm³: the panes of one pad share its need by their areas. */
export function withNeeds<T extends { refDes: string | null; from: number; areaMm2: number }>(
	openings: readonly T[],
	needOf: (refDes: string) => number | null
): (T & { neededMm3?: number })[] {
	const pads = new Map<number, number>();
	for (const o of openings) pads.set(o.from, (pads.get(o.from) ?? 0) + o.areaMm2);
	return openings.map((o) => {
		const need = o.refDes === null ? null : needOf(o.refDes);
		return need === null ? o : { ...o, neededMm3: (need * o.areaMm2) / pads.get(o.from)! };
	});
}
