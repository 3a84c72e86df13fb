import { InputError, requireRange } from '../../judgement/index.ts';

/** Where each alarm starts; a plant tunes them on its own runs, and each verdict keeps the revision it was made with. */
export interface SignatureThresholds {
	measurementLn: number;
	shiftUm: number;
	rotationUm: number;
	stretchUm: number;
	scatterUm: number;
	strokeOffsetUm: number;
	strokeLp: number;
	clogLp: number;
	ageingLp: number;
	topupLp: number;
	abandonLp: number;
	tiltLp: number;
	supportLp: number;
	nickLp: number;
	blockedLp: number;
	gapHeightRatio: number;
	gapAreaRatio: number;
	scoopRatio: number;
	scoopOthers: number;
	slumpArea: number;
	slumpHeight: number;
	levelLow: number;
	peakRatio: number;
	peakShare: number;
	bridgesPerPanel: number;
	bridgePanels: number;
	/** |t| or z that every alarm of a regression, strip or place needs beside its size. */
	leastT: number;
	leastPanels: number;
	leastWipeCycles: number;
	leastPerStroke: number;
	leastPads: number;
}

/** @see all of them common practice or our model's starting values */
export const SIGNATURE_THRESHOLDS: SignatureThresholds = {
	measurementLn: 0.1,
	shiftUm: 25,
	rotationUm: 25,
	stretchUm: 25,
	scatterUm: 15,
	strokeOffsetUm: 20,
	strokeLp: 5,
	clogLp: 6,
	ageingLp: 8,
	topupLp: 6,
	abandonLp: 8,
	tiltLp: 12,
	supportLp: 12,
	nickLp: 10,
	blockedLp: 35,
	gapHeightRatio: 1.15,
	gapAreaRatio: 1.1,
	scoopRatio: 0.85,
	scoopOthers: 0.92,
	slumpArea: 1.12,
	slumpHeight: 0.88,
	levelLow: 0.88,
	peakRatio: 1.5,
	peakShare: 0.05,
	bridgesPerPanel: 0.5,
	bridgePanels: 5,
	leastT: 4,
	leastPanels: 12,
	leastWipeCycles: 2,
	leastPerStroke: 4,
	leastPads: 30
};

/** Refuses thresholds that no cause could be told by.
 * @throws {InputError} naming the threshold
 */
export function checkThresholds(thresholds: SignatureThresholds): void {
	for (const [name, start] of Object.entries(SIGNATURE_THRESHOLDS)) {
		const value = thresholds[name as keyof SignatureThresholds];
		// A tenth to ten times the value to start from: outside it a unit was mistaken.
		requireRange(name, value, start / 10, start * 10);
		if (name.startsWith('least') && name !== 'leastT' && !Number.isInteger(value))
			throw new InputError('out-of-range', name, 'a whole number', value);
	}
	if (thresholds.leastT < 3)
		throw new InputError('out-of-range', 'leastT', '3 or more: below it clean runs alarm by chance', thresholds.leastT);
}
