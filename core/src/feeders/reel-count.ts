import { InputError, requireRange } from '../judgement/index.ts';

/** Pieces on a reel by how far it is wound: N = π(D² − d²)/(4·t·P1), within about 5 %. The thickness of the tape is best found from a full reel whose count is known.
 * @param outerMm D, over the winding; @param hubMm d, under it
 * @param tapeMm t, thickness of one layer with its cover: 0.6 to 1.1 mm for paper, to 4 mm and more for embossed tape (common practice)
 * @param pitchMm P1, from pocket to pocket: 1, 2 or a multiple of 4 mm
 * @see EIA-481 (pitches, values from memory)
 * @throws {InputError} `out-of-range` for a winding that cannot be, or a pitch that no tape has
 * @example reelPieces(170, 60, 0.75, 2) // => 13247
 */
export function reelPieces(outerMm: number, hubMm: number, tapeMm: number, pitchMm: number): number {
	requireRange('hubMm', hubMm, 10, 600, 'mm');
	requireRange('outerMm', outerMm, hubMm, 700, 'mm');
	requireRange('tapeMm', tapeMm, 0.05, 20, 'mm');
	if (!isPitch(pitchMm)) throw new InputError('out-of-range', 'pitchMm', '1, 2 or a multiple of 4 mm', pitchMm);
	return Math.round((Math.PI * (outerMm ** 2 - hubMm ** 2)) / (4 * tapeMm * pitchMm));
}

/** Thickness of a layer of tape, from a full reel whose count its label says, mm. */
export function tapeThicknessMm(outerMm: number, hubMm: number, pieces: number, pitchMm: number): number {
	requireRange('pieces', pieces, 1, 1e6);
	// Of a tape 1 mm thick there would be so many.
	return reelPieces(outerMm, hubMm, 1, pitchMm) / pieces;
}

const isPitch = (mm: number) => mm === 1 || mm === 2 || (mm > 0 && mm % 4 === 0);
