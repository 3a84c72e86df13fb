import type { Cause } from './cause.ts';
import { factorFinding, factorStatistic } from './factor.ts';
import { less } from './words.ts';

export const PASTE_AGING: Cause = {
	code: 'PASTE_AGING',
	name: 'Paste fades over the run',
	cause: 'paste dries: age, draught or humidity',
	action: 'Put on fresh paste; check its clocks',
	test: 'Wipe now: a clogged opening recovers, an aged paste does not',
	unit: 'lp',
	threshold: (th) => th.ageingLp,
	certainty: 0.95,
	panelsNeeded: 12,
	find: (facts) => {
		const size = facts.all.effects.time?.value ?? 0;
		if (size > -facts.th.ageingLp) return [];
		return factorFinding(facts, 'time', facts.all, size, `Volumes fall by ${less(size)} over the run; wipes do not bring them back.`);
	},
	statistic: ({ all }) => factorStatistic(all, 'time')
};
