import { panelsLeft } from '../feeders/index.ts';

/** Something that will need a person. */
export interface Due {
	/** Latest safe start, ms. */
	atMs: number;
	station: string;
	/** Imperative: "Splice slot 14 on place 1". */
	action: string;
	/** Why then. */
	reason: string;
	/** Who may do it. */
	who: string;
}

export interface ReelState {
	station: string;
	slot: number;
	partNumber: string;
	pieces: number;
	perPanel: number;
}

/** Minutes that a splice is begun before the reel ends: walk, reel and splice tool included (common practice, a plant sets its own). */
const SPLICE_LEAD_S = 300;

/** What is due on a running line, by the latest safe start.
 * @param nowMs plant time; @param taktS seconds a panel; @param panelsToGo of the run
 */
export function nextUp(
	nowMs: number,
	line: { taktS: number; panelsToGo: number; reels: readonly ReelState[]; shiftEndMs: number | null; handOverSigned: boolean }
): Due[] {
	const due: Due[] = [];
	for (const reel of line.reels) {
		const panels = panelsLeft(reel.pieces, reel.perPanel);
		if (panels >= line.panelsToGo) continue;
		const emptyMs = nowMs + panels * line.taktS * 1000;
		due.push({
			atMs: emptyMs - SPLICE_LEAD_S * 1000,
			station: reel.station,
			action: `Splice slot ${reel.slot}`,
			reason: `${reel.partNumber}: ${reel.pieces} pieces left, ${reel.perPanel} a panel: ${panels} panels`,
			who: 'operator, technician'
		});
	}
	if (line.panelsToGo > 0)
		due.push({
			atMs: nowMs + line.panelsToGo * line.taktS * 1000,
			station: 'Run',
			action: 'Prepare the next job',
			reason: `${line.panelsToGo} panels to go at ${line.taktS.toFixed(1)} s`,
			who: 'technician, lead'
		});
	if (line.shiftEndMs !== null && !line.handOverSigned)
		due.push({
			atMs: line.shiftEndMs - 15 * 60000,
			station: 'Shift',
			action: 'Hand over',
			reason: 'the shift ends; both people sign',
			who: 'technician, quality, lead'
		});
	return due.sort((a, b) => a.atMs - b.atMs);
}
