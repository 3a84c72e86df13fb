import type { Cause } from './cause.ts';
import { LARGE_MM } from './facts.ts';

export const SCOOP: Cause = {
	code: 'SCOOP',
	name: 'Large deposits scooped',
	cause: 'force too high, or a soft blade',
	action: 'Lower the force',
	test: 'Print 4 panels with a fifth less force',
	unit: 'ratio',
	threshold: (th) => th.scoopRatio,
	certainty: 0.95,
	panelsNeeded: 4,
	level: true,
	below: true,
	find: ({ levels: { large, others }, th, p: { run } }) => {
		if (large.n < 4 || others.n < 10) return [];
		const size = large.value / others.value;
		if (!(size <= th.scoopRatio && others.value >= th.scoopOthers)) return [];
		const pads = run.pads.flatMap((pad, i) => (pad.minSideMm >= LARGE_MM ? [i] : []));
		return [
			{ size, error: 0, where: { pads }, evidence: `Large deposits stand at ${(100 * size).toFixed(0)} % of the height of the others.` }
		];
	}
};
