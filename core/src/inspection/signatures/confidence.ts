import type { CauseCode } from './causes.ts';

/** Chance that a named cause is the right one, from how far its size is over its threshold and how sure that size is.
 * Fitted to the seeded study (the bench prints how often causes named at each confidence were right): simulator evidence, to be fitted to a plant's own closed cases.
 * @param over size / threshold, 1 at the threshold; @param t |t| or z where the rule has one
 */
export function confidenceOf(code: CauseCode, over: number, t: number | null): number {
	// Two candidates, and nothing in the run that tells them apart.
	if (code === 'AMBIGUOUS') return 0.5;
	// What is left where alignment and wipe explain no bridge: the least certain rule.
	const base =
		code === 'BRIDGE_PRESSURE' ? 0.88 : code === 'SUPPORT_LOCAL' || code === 'BLADE_NICK' || code.startsWith('TILT') ? 0.93 : 0.95;
	const margin = Math.min(Math.max(0, over - 1) / 0.4, t === null ? 1.5 : Math.max(0, Math.abs(t) - 4) / 3);
	return base + (0.99 - base) * (1 - Math.exp(-1.6 * margin));
}
