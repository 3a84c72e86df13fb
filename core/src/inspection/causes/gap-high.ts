import type { Cause } from './cause.ts';

export const GAP_HIGH: Cause = {
	code: 'GAP_HIGH',
	name: 'Deposits too high everywhere',
	cause: 'no seal: gap, debris, tooling too low, slack foil',
	action: 'Check print gap, tooling height and tension',
	test: 'Measure the foil with a micrometer',
	unit: 'ratio',
	threshold: (th) => th.gapHeightRatio,
	certainty: 0.95,
	panelsNeeded: 4,
	level: true,
	find: ({ levels: { height, area }, th }) => {
		if (!(height >= th.gapHeightRatio && area < th.gapAreaRatio)) return [];
		const evidence = `Deposits stand at ${(100 * height).toFixed(0)} % of the expected height over their usual area.`;
		return [{ size: height, error: 0, evidence }];
	}
};
