import type { Cause } from './cause.ts';

export const LEVEL_LOW: Cause = {
	code: 'LEVEL_LOW',
	name: 'Too little paste everywhere',
	cause: 'wrong foil or program, slow filling, too fast',
	action: 'Compare foil and program; print slower',
	test: 'Measure the foil with a micrometer',
	unit: 'ratio',
	threshold: (th) => th.levelLow,
	certainty: 0.95,
	panelsNeeded: 4,
	level: true,
	below: true,
	find: ({ levels: { volume }, th }, found) => {
		// What has a cause of its own needs no second name.
		if (!(volume <= th.levelLow) || found.some(({ code }) => code === 'GAP_HIGH' || code === 'SCOOP' || code === 'SLUMP')) return [];
		return [{ size: volume, error: 0, evidence: `Volumes are ${(100 * volume).toFixed(0)} % of what these openings deliver.` }];
	}
};
