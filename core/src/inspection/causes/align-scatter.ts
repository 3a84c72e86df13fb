import type { Cause } from './cause.ts';
import type { Facts } from './facts.ts';
import { spreadWithinStrokes } from './offsets.ts';
import { um } from './words.ts';

function spread({ offsets: { tx, ty }, p }: Facts) {
	const strokes = p.run.panels.map((panel) => panel.stroke);
	const value = Math.max(spreadWithinStrokes(tx, strokes), spreadWithinStrokes(ty, strokes));
	return { value, error: value / Math.sqrt(2 * tx.length) };
}

export const ALIGN_SCATTER: Cause = {
	code: 'ALIGN_SCATTER',
	name: 'Prints land here and there',
	cause: 'clamping, contrast of the fiducials, or a loose stencil',
	action: 'Check clamps and fiducial light',
	test: 'Align one panel ten times without printing',
	unit: 'µm',
	threshold: (th) => th.scatterUm,
	certainty: 0.95,
	panelsNeeded: 12,
	find: (facts) => {
		const { value, error } = spread(facts);
		if (!(value > facts.th.scatterUm)) return [];
		return [{ size: value, error, evidence: `Prints land with a spread of ${um(value)}, strokes apart.` }];
	},
	statistic: spread
};
