import type { Cause } from './cause.ts';

/** Chance that a named cause is the right one, from how far its size is over its threshold and how sure that size is.
 * Fitted to the seeded study (the bench prints how often causes named at each confidence were right): simulator evidence, to be fitted to a plant's own closed cases.
 * @param over size / threshold, 1 at the threshold; @param t |t| or z where the rule has one
 */
export function confidenceOf({ certainty }: Pick<Cause, 'certainty'>, over: number, t: number | null): number {
	const margin = Math.min(Math.max(0, over - 1) / 0.4, t === null ? 1.5 : Math.max(0, Math.abs(t) - 4) / 3);
	return certainty + (0.99 - certainty) * (1 - Math.exp(-1.6 * margin));
}

/** How far a size is over its threshold: 1 at the threshold, more beyond it. */
export function overThreshold({ below }: Pick<Cause, 'below'>, size: number, threshold: number): number {
	return below ? (1 - size) / (1 - threshold) : Math.abs(size) / threshold;
}
