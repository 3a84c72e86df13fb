import { InputError } from '../judgement/index.ts';

/** A two-sided limit, or a one-sided one with the target it is measured from. */
export type Limit = { low: number; high: number } | { max: number; target: number };

export type MetricName = 'rise' | 'soak' | 'aboveReference' | 'peak' | 'fall';

/** A paste's process window. */
export interface PasteWindow {
	name: string;
	referenceC: number;
	soakFromC: number;
	soakToC: number;
	limits: Record<MetricName, Limit>;
	source: string;
}

const LEAD_FREE: Record<MetricName, Limit> = {
	rise: { max: 3, target: 1.5 },
	soak: { low: 60, high: 120 },
	aboveReference: { low: 45, high: 90 },
	peak: { low: 235, high: 250 },
	fall: { max: 6, target: 2.5 }
};

/** Windows to start from; the paste's own sheet overrides them.
 * @see common practice; the reference is the temperature the sheets count above (J-STD-006 alloys, value from memory)
 */
export const GENERIC_WINDOWS: Record<'leadFree' | 'tinLead' | 'tinBismuth', PasteWindow> = {
	leadFree: {
		name: 'lead-free SAC',
		referenceC: 217,
		soakFromC: 150,
		soakToC: 200,
		limits: LEAD_FREE,
		source: 'generic lead-free window, common practice: the paste’s own sheet overrides it'
	},
	tinLead: {
		name: 'tin-lead',
		referenceC: 183,
		soakFromC: 100,
		soakToC: 150,
		limits: { ...LEAD_FREE, peak: { low: 205, high: 225 } },
		source: 'generic tin-lead window, common practice: the paste’s own sheet overrides it'
	},
	tinBismuth: {
		name: 'tin-bismuth',
		referenceC: 138,
		soakFromC: 90,
		soakToC: 120,
		limits: {
			...LEAD_FREE,
			rise: { max: 2.5, target: 1.25 },
			aboveReference: { low: 30, high: 90 },
			peak: { low: 160, high: 185 },
			fall: { max: 4, target: 2 }
		},
		source: 'generic tin-bismuth window, common practice: the paste’s own sheet overrides it'
	}
};

/** How much of a window a value uses: 0 in the middle, ±100 on a limit, beyond 100 out.
 * Two-sided: 100·(x − middle)/half width. One-sided: max(0, 100·(x − target)/(max − target)).
 * @throws {InputError} `out-of-range` where the limits cross
 * @example windowUse(240, { low: 235, high: 250 }) // => -33.33...
 */
export function windowUse(x: number, limit: Limit): number {
	if ('max' in limit) {
		if (!(limit.max > limit.target)) throw new InputError('out-of-range', 'limit.max', `above its target ${limit.target}`, limit.max);
		return Math.max(0, (100 * (x - limit.target)) / (limit.max - limit.target));
	}
	if (!(limit.high > limit.low)) throw new InputError('out-of-range', 'limit.high', `above ${limit.low}`, limit.high);
	return (100 * (x - (limit.low + limit.high) / 2)) / ((limit.high - limit.low) / 2);
}
