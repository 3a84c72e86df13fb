import { requireRange } from '../judgement/index.ts';

/** Pieces that still come from the reel before when another one is spliced on: those in the tape between splice and pick point.
 * @param pathMm length of that tape; @param pitchMm P1, from pocket to pocket
 * @example piecesInPath(300, 4) // => 75
 */
export function piecesInPath(pathMm: number, pitchMm: number): number {
	requireRange('pathMm', pathMm, 0, 5000, 'mm');
	requireRange('pitchMm', pitchMm, 0.5, 200, 'mm');
	return Math.floor(pathMm / pitchMm);
}

/** A reel that came into a slot, and how many panels were placed since then, the one that is asked about among them. */
export interface LoadOfSlot {
	reel: string;
	/** Spliced to the tape that ran; else put in with nothing before it. */
	spliced: boolean;
	panelsSince: number;
}

/** Which reels have fed a panel in one slot: of a splice the reel before goes on until its tape has run through.
 * @param loads of the slot in their order, up to the panel; the last has `panelsSince` 1 or more
 * @returns their reels in the order in which they fed it; empty where nothing was loaded
 */
export function reelsOfPanel(loads: readonly LoadOfSlot[], perPanel: number, inPath: number): string[] {
	requireRange('perPanel', perPanel, 1, 100_000);
	requireRange('inPath', inPath, 0, 100_000);
	const last = loads.at(-1);
	if (!last) return [];
	const before = loads.slice(0, -1);
	if (!last.spliced || before.length === 0) return [last.reel];
	const placedBefore = (last.panelsSince - 1) * perPanel;
	if (placedBefore >= inPath) return [last.reel];
	const earlier = reelsOfPanel(before, perPanel, inPath);
	return placedBefore + perPanel <= inPath ? earlier : [...earlier, last.reel];
}
