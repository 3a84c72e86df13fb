import type { Cause } from './cause.ts';

/** What the finder puts in place of two causes that the run moved together: nothing raises it by itself. */
export const AMBIGUOUS: Cause = {
	code: 'AMBIGUOUS',
	name: 'Two causes cannot be told apart',
	cause: 'the run moved both together',
	action: 'Run the separating test',
	test: 'Wipe every 3 prints for 9 panels',
	unit: 'lp',
	threshold: () => NaN,
	certainty: 0.5,
	panelsNeeded: 12,
	find: () => []
};
