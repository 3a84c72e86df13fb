import type { Cause } from './cause.ts';
import { MOST_NAMED } from './local.ts';
import { padMedian } from './offsets.ts';
import { percent } from './words.ts';

export const SUPPORT_LOCAL: Cause = {
	code: 'SUPPORT_LOCAL',
	name: 'Deposits too high in one place',
	cause: 'the board sags there: missing pin, debris, label or thick legend',
	action: 'Set or clean the support there',
	test: 'Press there with the conveyor stopped and the covers closed by trained staff',
	unit: 'lp',
	threshold: (th) => th.supportLp,
	certainty: 0.93,
	panelsNeeded: 6,
	find: ({ high }) =>
		high.slice(0, MOST_NAMED).map(({ size, z, pads, at }) => ({
			size,
			error: Math.abs(size / z),
			t: z,
			where: { pads, at },
			evidence: `${pads.length} pads around ${at.xMm.toFixed(0)}, ${at.yMm.toFixed(0)} mm stand ${percent(size).toFixed(0)} % higher than their classes.`
		})),
	statistic: ({ p }, { pads }) => {
		const here = new Set(pads ?? []);
		const elsewhere = p.run.pads.flatMap((_, i) => (here.has(i) ? [] : [i]));
		const others = padMedian(p.hr, elsewhere);
		const place = padMedian(p.hr, pads ?? p.run.pads.keys());
		return { value: 100 * Math.log(place.value / others.value), error: (100 * place.error) / place.value };
	}
};
