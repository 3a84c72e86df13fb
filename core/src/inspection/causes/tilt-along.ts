import type { Cause } from './cause.ts';
import { tiltFinding, tiltStatistic } from './tilt.ts';

export const TILT_ALONG: Cause = {
	code: 'TILT_ALONG',
	name: 'More paste at one end of the stroke',
	cause: 'support, rail height, or the bead runs out',
	action: 'Check support and rails; add paste',
	test: 'Top up, then compare 4 panels',
	unit: 'lp',
	threshold: (th) => th.tiltLp,
	certainty: 0.93,
	panelsNeeded: 6,
	find: (facts) => tiltFinding(facts, 'along', 'along the stroke'),
	statistic: ({ p }) => tiltStatistic(p, 'along')
};
