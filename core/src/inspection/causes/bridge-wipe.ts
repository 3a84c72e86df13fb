import type { Cause } from './cause.ts';
import { misalignment } from './bridges.ts';

export const BRIDGE_WIPE: Cause = {
	code: 'BRIDGE_WIPE',
	name: 'Bridges before each wipe',
	cause: 'paste gathers under the stencil',
	action: 'Wipe the underside sooner',
	test: 'Wipe now and look at the next 3 panels',
	unit: 'a panel',
	threshold: (th) => th.bridgesPerPanel,
	certainty: 0.95,
	panelsNeeded: 12,
	find: ({ bridges }, found) => {
		if (!bridges?.lateBeforeWipe || misalignment(found)) return [];
		const evidence = `${bridges.words}, ${(100 * bridges.lateShare).toFixed(0)} % of them late before a wipe.`;
		return [{ ...bridges.finding, t: bridges.z, evidence }];
	}
};
