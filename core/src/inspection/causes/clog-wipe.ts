import type { Cause } from './cause.ts';
import { factorFinding, factorStatistic } from './factor.ts';
import { less } from './words.ts';

export const CLOG_WIPE: Cause = {
	code: 'CLOG_WIPE',
	name: 'Small openings clog between wipes',
	cause: 'paste stays in small openings until the wipe',
	action: 'Shorten the wipe interval; check wet wipe, vacuum and paper',
	test: 'Wipe now: an aged paste does not recover',
	unit: 'lp',
	threshold: (th) => th.clogLp,
	certainty: 0.95,
	panelsNeeded: 12,
	find: (facts) => {
		const { small, th, wipes, p } = facts;
		const size = (small.effects.wipe?.value ?? 0) * small.reach.wipe;
		if (wipes < th.leastWipeCycles || size > -th.clogLp) return [];
		return factorFinding(facts, 'wipe', small, size, `Small openings lose ${less(size)} until the wipe.`, { pads: [...p.smallest] });
	},
	statistic: ({ small }) => factorStatistic(small, 'wipe', small.reach.wipe)
};
