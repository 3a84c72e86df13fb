import type { Cause } from './cause.ts';
import { misalignment } from './bridges.ts';

/** What is left where alignment and wipe explain no bridge: the least certain rule. */
export const BRIDGE_PRESSURE: Cause = {
	code: 'BRIDGE_PRESSURE',
	name: 'Bridges',
	cause: 'force, gap, or an opening too large',
	action: 'Lower the force; check gap and openings',
	test: 'Print 4 panels with a fifth less force',
	unit: 'a panel',
	threshold: (th) => th.bridgesPerPanel,
	certainty: 0.88,
	panelsNeeded: 12,
	find: ({ bridges }, found) => {
		if (!bridges || bridges.lateBeforeWipe || misalignment(found)) return [];
		return [{ ...bridges.finding, evidence: `${bridges.words}, whatever the wipe.` }];
	}
};
