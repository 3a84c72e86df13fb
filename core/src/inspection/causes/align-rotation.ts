import type { Cause } from './cause.ts';
import type { Facts } from './facts.ts';
import { medianWithError } from './offsets.ts';
import { um } from './words.ts';

const turned = ({ offsets, p }: Facts) => medianWithError(offsets.theta.map((v) => v * p.rMaxMm));

export const ALIGN_ROTATION: Cause = {
	code: 'ALIGN_ROTATION',
	name: 'Whole print turned',
	cause: 'fiducials taught askew',
	action: 'Teach the fiducials again',
	test: 'Read the marks of one panel twice',
	unit: 'µm',
	threshold: (th) => th.rotationUm,
	certainty: 0.95,
	panelsNeeded: 3,
	find: (facts) => {
		const { value, error } = turned(facts);
		if (!(Math.abs(value) > facts.th.rotationUm)) return [];
		return [{ size: value, error, evidence: `The print is turned by ${um(value)} at the farthest pad.` }];
	},
	statistic: turned
};
