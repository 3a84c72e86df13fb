import type { Cause } from './cause.ts';
import { tiltFinding, tiltStatistic } from './tilt.ts';

export const TILT_ACROSS: Cause = {
	code: 'TILT_ACROSS',
	name: 'More paste at one end of the blade',
	cause: 'blade not level, or force unequal at its ends',
	action: 'Level the blade; compare the force at its ends',
	test: 'Print one panel turned round',
	unit: 'lp',
	threshold: (th) => th.tiltLp,
	certainty: 0.93,
	panelsNeeded: 6,
	find: (facts) => tiltFinding(facts, 'across', 'across the blade'),
	statistic: ({ p }) => tiltStatistic(p, 'across')
};
