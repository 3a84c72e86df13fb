import type { Cause } from './cause.ts';

export const SLUMP: Cause = {
	code: 'SLUMP',
	name: 'Deposits wide and low',
	cause: 'warm or wet paste or room, or paste stirred too long',
	action: 'Check room, paste temperature and stirring',
	test: 'Measure one panel again after 10 minutes',
	unit: 'ratio',
	threshold: (th) => th.slumpArea,
	certainty: 0.95,
	panelsNeeded: 4,
	level: true,
	find: ({ levels: { height, area, volume }, th }) => {
		if (!(area >= th.slumpArea && height <= th.slumpHeight && volume >= 0.9 && volume <= 1.1)) return [];
		const evidence = `Deposits cover ${(100 * area).toFixed(0)} % of their usual area at ${(100 * height).toFixed(0)} % of their height; the volume is right.`;
		return [{ size: area, error: 0, evidence }];
	}
};
