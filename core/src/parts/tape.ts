import type { PackageRecord } from './package.ts';

export interface Supply {
	kind: 'tape' | 'tray';
	/** Tape width, mm; for a tray the width it takes in the bank. */
	widthMm: number;
	pitchMm: number;
	/** Pieces on a full reel or in a full tray. */
	pieces: number;
	source: string;
}

/** How a part of this body usually comes.
 * @see EIA-481 widths and pitches (value from memory); reel quantities are common practice
 */
export function usualSupply(body: PackageRecord): Supply {
	const tape = (widthMm: number, pitchMm: number, pieces: number): Supply => ({
		kind: 'tape',
		widthMm,
		pitchMm,
		pieces,
		source: 'usual tape for this body, common practice'
	});
	const longest = Math.max(body.lengthMm ?? 0, body.widthMm ?? 0);
	if (body.kind === 'unknown' || longest === 0) return { ...tape(12, 8, 1000), source: 'body unknown: 12 mm tape assumed' };
	if (body.kind === 'ballGrid' && longest > 12) return { ...tape(44, 24, 160), kind: 'tray' };
	if (body.kind === 'chip') {
		if (longest <= 1.05) return tape(8, 2, 10000);
		if (longest <= 2.1) return tape(8, 4, 4000);
		if (longest <= 3.3) return tape(8, 4, 3000);
		return tape(12, 8, 1500);
	}
	if (longest <= 3.05) return tape(8, 4, 3000);
	if (longest <= 6) return tape(12, 8, 2500);
	if (longest <= 9) return tape(16, 12, 1500);
	if (longest <= 14) return tape(24, 16, 800);
	if (longest <= 22) return tape(32, 24, 400);
	return tape(44, 32, 250);
}

/** Slots that a feeder of this tape takes: ⌈(tape + body extra)/slot pitch⌉.
 * @param bodyExtraMm width of the feeder body beyond the tape, default 4 mm (common practice); a machine's own table overrides it
 * @example slotsForTape(32, 14) // => 3
 */
export function slotsForTape(tapeMm: number, slotPitchMm: number, bodyExtraMm = 4): number {
	return Math.ceil((tapeMm + bodyExtraMm) / slotPitchMm - 1e-9);
}
