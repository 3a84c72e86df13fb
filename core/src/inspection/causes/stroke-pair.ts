import type { Cause } from './cause.ts';
import { factorFinding, factorStatistic } from './factor.ts';
import { less } from './words.ts';

export const STROKE_PAIR: Cause = {
	code: 'STROKE_PAIR',
	name: 'Front and rear strokes differ',
	cause: 'a worn or bent blade, or unequal force',
	action: 'Swap the blades',
	test: 'After the swap: the fault follows the blade, or stays with the side',
	unit: 'lp',
	threshold: (th) => th.strokeLp,
	certainty: 0.95,
	panelsNeeded: 8,
	find: (facts) => {
		const size = facts.all.effects.stroke?.value ?? 0;
		if (Math.abs(size) < facts.th.strokeLp) return [];
		const evidence = `${size > 0 ? 'Rear' : 'Front'} strokes print ${less(size)} less than the others.`;
		return factorFinding(facts, 'stroke', facts.all, size, evidence, { stroke: size > 0 ? 'R' : 'F' });
	},
	statistic: ({ all }) => factorStatistic(all, 'stroke')
};
