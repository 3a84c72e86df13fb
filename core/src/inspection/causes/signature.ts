import type { CauseCode } from './codes.ts';

export interface Signature {
	code: CauseCode;
	/** The statistic that raised it, in `unit`, with its 95 % interval. */
	size: number;
	low: number;
	high: number;
	unit: 'lp' | 'µm' | 'ratio' | 'share' | 'a panel';
	threshold: number;
	/** What it rests on beside its size; null where the rule has none. */
	t: number | null;
	/** Chance that the named cause is the right one, 0 to 1. */
	confidence: number;
	/** Which pads, strip, stroke or panels. */
	where: { pads?: number[]; panels?: number[]; stroke?: 'F' | 'R'; stripMm?: [number, number]; at?: { xMm: number; yMm: number } };
	/** In words. */
	evidence: string;
	/** For AMBIGUOUS: what it could be. */
	candidates?: CauseCode[];
	/** Explained by a cause that stands before it. */
	symptomOf?: CauseCode;
}
