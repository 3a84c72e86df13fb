import type { Finding } from './cause.ts';
import type { Facts } from './facts.ts';
import { fitTilt } from './regress.ts';
import type { Prepared } from './run.ts';
import { signed } from './words.ts';

type Direction = 'across' | 'along';

/** Slopes are over half the board: from end to end they are twice as much. */
const endToEnd = ({ value, error }: { value: number; error: number }) => ({ value: 2 * value, error: 2 * error });

export function tiltFinding({ tilt, th }: Facts, direction: Direction, words: string): Finding[] {
	if (!tilt) return [];
	const { value: size, error } = endToEnd(tilt[direction]);
	const { t } = tilt[direction];
	if (!(Math.abs(size) >= th.tiltLp && Math.abs(t) >= th.leastT)) return [];
	const evidence = `Paste changes by ${signed(size)} from end to end ${words}, ${size > 0 ? 'more' : 'less'} at the larger coordinate.`;
	return [{ size, error, t, evidence }];
}

export function tiltStatistic(p: Prepared, direction: Direction) {
	const tilt = fitTilt(p);
	return tilt && endToEnd(tilt[direction]);
}
