import type { Cause } from './cause.ts';
import { factorFinding, factorStatistic } from './factor.ts';
import { less } from './words.ts';

export const ABANDON: Cause = {
	code: 'ABANDON',
	name: 'Less paste after a pause',
	cause: 'the paste stood too long',
	action: 'Knead after a pause, as the ladder says',
	test: 'Knead before the next print after a pause',
	unit: 'lp',
	threshold: (th) => th.abandonLp,
	certainty: 0.95,
	panelsNeeded: 12,
	find: (facts) => {
		const size = facts.small.effects.pause?.value ?? 0;
		if (size > -facts.th.abandonLp) return [];
		return factorFinding(facts, 'pause', facts.small, size, `The first print after a pause carries ${less(size)} less.`);
	},
	statistic: ({ small }) => factorStatistic(small, 'pause')
};
