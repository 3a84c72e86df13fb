import type { Cause } from './cause.ts';
import { blockedPads } from './local.ts';
import { medianWithError } from './offsets.ts';
import { less } from './words.ts';

export const APERTURE_BLOCKED: Cause = {
	code: 'APERTURE_BLOCKED',
	name: 'Openings blocked',
	cause: 'plugged or damaged openings',
	action: 'Clean the stencil and look through it',
	test: 'Hold it against the light',
	unit: 'lp',
	threshold: (th) => th.blockedLp,
	certainty: 0.95,
	panelsNeeded: 3,
	find: ({ blocked, p: { run } }) => {
		// Openings by the dozen are no blockage: the level of the print is.
		if (blocked.length === 0 || blocked.length > Math.max(3, 0.05 * run.pads.length)) return [];
		const names = blocked.slice(0, 4).map((b) => run.pads[b.pad]!.name);
		const more = blocked.length > 4 ? ` and ${blocked.length - 4} more` : '';
		const { size } = blocked[0]!;
		const evidence = `${names.join(', ')}${more} carry ${less(size, 0)} less than their class.`;
		return [{ size, error: 0, where: { pads: blocked.map((b) => b.pad) }, evidence }];
	},
	statistic: ({ p }, { pads = [] }) => {
		const all = new Map(blockedPads(p, -Infinity).map((b) => [b.pad, b.size]));
		const m = medianWithError(pads.flatMap((i) => (all.has(i) ? [all.get(i)!] : [])));
		return { value: m.value, error: m.error || 3 };
	}
};
