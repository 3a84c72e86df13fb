import type { Cause } from './cause.ts';
import { misalignment } from './bridges.ts';

export const BRIDGE_ALIGN: Cause = {
	code: 'BRIDGE_ALIGN',
	name: 'Bridges from misalignment',
	cause: 'the offset brings paste between pads',
	action: 'Cure the alignment first',
	test: 'Bridges go when the offset goes',
	unit: 'a panel',
	threshold: (th) => th.bridgesPerPanel,
	certainty: 0.95,
	panelsNeeded: 12,
	find: ({ bridges }, found) => {
		const aligned = misalignment(found);
		if (!bridges || !aligned) return [];
		return [{ ...bridges.finding, evidence: `${bridges.words}, while the print is off.`, symptomOf: aligned.code }];
	}
};
