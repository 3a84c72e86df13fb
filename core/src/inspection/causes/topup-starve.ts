import type { Cause } from './cause.ts';
import { factorFinding, factorStatistic } from './factor.ts';
import { less } from './words.ts';

export const TOPUP_STARVE: Cause = {
	code: 'TOPUP_STARVE',
	name: 'Less paste until the next top-up',
	cause: 'the bead is too small',
	action: 'Top up sooner',
	test: 'Top up now and compare the next 4 panels',
	unit: 'lp',
	threshold: (th) => th.topupLp,
	certainty: 0.95,
	panelsNeeded: 12,
	find: (facts) => {
		const { all, th } = facts;
		const size = (all.effects.topup?.value ?? 0) * all.reach.topup;
		if (size > -th.topupLp) return [];
		return factorFinding(facts, 'topup', all, size, `Volumes fall by ${less(size)} until paste is added.`);
	},
	statistic: ({ all }) => factorStatistic(all, 'topup', all.reach.topup)
};
