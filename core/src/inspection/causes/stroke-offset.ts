import type { Cause } from './cause.ts';
import type { Facts } from './facts.ts';
import { medianWithError } from './offsets.ts';
import { um } from './words.ts';

/** Where each blade's prints land along the stroke, µm, in the middle of its panels. */
export function strokesAlong({ offsets, p: { run } }: Facts) {
	const along = run.strokeAxis === 'x' ? offsets.tx : offsets.ty;
	const of = (stroke: string) => medianWithError(along.filter((_, i) => run.panels[i]!.stroke === stroke));
	return { front: of('F'), rear: of('R') };
}

function gap(facts: Facts) {
	const { front, rear } = strokesAlong(facts);
	return { value: front.value - rear.value, error: Math.hypot(front.error, rear.error) };
}

export const STROKE_OFFSET: Cause = {
	code: 'STROKE_OFFSET',
	name: 'Front and rear strokes land apart',
	cause: 'the foil is dragged: tension, force or clamps',
	action: 'Measure the foil’s tension',
	test: 'Lower the force by a fifth for 8 panels',
	unit: 'µm',
	threshold: (th) => th.strokeOffsetUm,
	certainty: 0.95,
	panelsNeeded: 8,
	find: (facts) => {
		const { th } = facts;
		const { front, rear } = strokesAlong(facts);
		if (front.n < th.leastPerStroke || rear.n < th.leastPerStroke) return [];
		const { value, error } = gap(facts);
		const t = value / error;
		if (!(Math.abs(value) > th.strokeOffsetUm && Math.abs(t) >= th.leastT)) return [];
		const evidence = `Front strokes land ${um(Math.abs(value))} ${value > 0 ? 'further' : 'less far'} along than rear strokes.`;
		return [{ size: value, error, t, evidence }];
	},
	statistic: gap
};
