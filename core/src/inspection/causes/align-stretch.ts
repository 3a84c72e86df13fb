import type { Cause } from './cause.ts';
import type { Facts } from './facts.ts';
import { medianWithError } from './offsets.ts';
import { um } from './words.ts';

const grown = ({ offsets, p }: Facts) => medianWithError(offsets.stretch.map((v) => v * p.rMaxMm));

export const ALIGN_STRETCH: Cause = {
	code: 'ALIGN_STRETCH',
	name: 'Boards stretched',
	cause: 'boards larger or smaller than the stencil',
	action: 'Sort the boards by stretch',
	test: 'Measure the marks of 8 boards of the lot',
	unit: 'µm',
	threshold: (th) => th.stretchUm,
	certainty: 0.95,
	panelsNeeded: 3,
	find: (facts) => {
		const { value, error } = grown(facts);
		if (!(Math.abs(value) > facts.th.stretchUm)) return [];
		const evidence = `The print is ${value > 0 ? 'larger' : 'smaller'} than the board by ${um(Math.abs(value))} at the farthest pad.`;
		return [{ size: value, error, evidence }];
	},
	statistic: grown
};
