import type { Cause } from './cause.ts';
import { MOST_NAMED, strokeDifferences } from './local.ts';
import { padMedian } from './offsets.ts';
import { signed } from './words.ts';

export const BLADE_NICK: Cause = {
	code: 'BLADE_NICK',
	name: 'A strip differs with one stroke',
	cause: 'a nick or dent in that blade',
	action: 'Inspect the blade there',
	test: 'Swap the blades: the strip changes its stroke',
	unit: 'lp',
	threshold: (th) => th.nickLp,
	certainty: 0.93,
	panelsNeeded: 8,
	find: ({ strips }) =>
		strips.slice(0, MOST_NAMED).map(({ size, z, pads, at, strip }) => ({
			size,
			error: Math.abs(size / z),
			t: z,
			where: { pads, stripMm: strip!, at, stroke: size > 0 ? 'R' : 'F' },
			evidence: `A strip from ${strip![0].toFixed(0)} to ${strip![1].toFixed(0)} mm across differs by ${signed(size)} between front and rear strokes.`
		})),
	statistic: ({ p }, { pads }) => {
		const found = strokeDifferences(p);
		return found && padMedian(found.difference, pads ?? p.run.pads.keys());
	}
};
