import { panelsLeft, stopClockMs } from '../feeders/index.ts';
import type { Action } from '../people/index.ts';

/** Something that will need a person. */
export interface Due {
	/** Latest safe start, ms. */
	atMs: number;
	station: string;
	/** Imperative: "Splice slot 14 on place 1". */
	action: string;
	/** Why then. */
	reason: string;
	/** Where it is done, as the application names its places. */
	where: string;
	/** The right that it asks for: who may do it follows from the plant's table. */
	right: Action;
}

export interface ReelState {
	station: string;
	slot: number;
	partNumber: string;
	pieces: number;
	perPanel: number;
}

/** Minutes that a splice is begun before the reel ends: walk, reel and splice tool included (common practice, a plant sets its own). */
export const SPLICE_LEAD_S = 300;

/** When reels of a running line are to be spliced; one that outlasts the run is not.
 * @param nowMs plant time; @param taktS seconds a panel; @param panelsToGo of the run; @param breaks in which the line stands
 */
export function spliceDues(
	nowMs: number,
	line: { taktS: number; panelsToGo: number; reels: readonly ReelState[]; breaks?: readonly { fromMs: number; toMs: number }[] }
): Due[] {
	return line.reels.flatMap((reel) => {
		const panels = panelsLeft(reel.pieces, reel.perPanel);
		if (panels >= line.panelsToGo) return [];
		return [
			{
				atMs: stopClockMs(nowMs, panels, line.taktS, line.breaks) - SPLICE_LEAD_S * 1000,
				station: reel.station,
				action: `Splice slot ${reel.slot}`,
				reason: `${reel.partNumber}: ${reel.pieces} pieces left, ${reel.perPanel} a panel: ${panels} panels`,
				where: `?slot=${reel.slot}`,
				right: 'feeder.load'
			}
		];
	});
}

/** What a line has to do whatever its stations are: the next job, and the hand-over of the shift.
 * @param line `firstBoard`: what is to be said of it while it asks for something; `done`: the job whose panels are all finished and that nobody has ended; null or left out: none
 */
export function lineDues(
	nowMs: number,
	line: {
		taktS: number;
		panelsToGo: number;
		shiftEndMs: number | null;
		handOverSigned: boolean;
		done?: string | null;
		firstBoard?: string | null;
	}
): Due[] {
	const due: Due[] = [];
	if (line.done)
		due.push({
			atMs: nowMs,
			station: 'Run',
			action: `End ${line.done}`,
			reason: 'all of its panels are finished: next job, bead off, stencil to wash',
			where: '/runs',
			right: 'run.end'
		});
	if (line.firstBoard)
		due.push({
			atMs: nowMs,
			station: 'Run',
			action: 'Look at the first board',
			reason: line.firstBoard,
			where: '/runs/first',
			right: 'firstBoard.check'
		});
	if (line.panelsToGo > 0)
		due.push({
			atMs: nowMs + line.panelsToGo * line.taktS * 1000,
			station: 'Run',
			action: 'Prepare the next job',
			reason: `${line.panelsToGo} panels to go at ${line.taktS.toFixed(1)} s`,
			where: '/runs',
			right: 'run.setUp'
		});
	if (line.shiftEndMs !== null && !line.handOverSigned)
		due.push({
			atMs: line.shiftEndMs - 15 * 60000,
			station: 'Shift',
			action: 'Hand over',
			reason: 'the shift ends; both people sign',
			where: '/shift',
			right: 'handOver.sign'
		});
	return due;
}

/** What is due on a running line, by the latest safe start. */
export function nextUp(
	nowMs: number,
	line: { taktS: number; panelsToGo: number; reels: readonly ReelState[]; shiftEndMs: number | null; handOverSigned: boolean }
): Due[] {
	return [...spliceDues(nowMs, line), ...lineDues(nowMs, line)].sort((a, b) => a.atMs - b.atMs);
}
