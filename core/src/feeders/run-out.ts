import { InputError, requireRange } from '../judgement/index.ts';

/** Whole panels that a reel still feeds: ⌊R(1−p)/u⌋. The machine stops inside the next one.
 * @param pieces left, >= 0
 * @param perPanel pieces a panel, > 0
 * @param lossShare share of picks lost, default 0.005 (chips 0.3 to 1 %, common practice)
 * @throws {InputError} `out-of-range`
 * @example panelsLeft(1500, 16, 0.02) // => 91
 */
export function panelsLeft(pieces: number, perPanel: number, lossShare = 0.005): number {
	if (!(perPanel > 0)) throw new InputError('out-of-range', 'perPanel', 'more than 0 pieces', perPanel);
	requireRange('pieces', pieces, 0, 1e7);
	requireRange('lossShare', lossShare, 0, 0.5);
	return Math.floor((pieces * (1 - lossShare)) / perPanel + 1e-9);
}

/** Pieces that a reel still holds: what was loaded less what the panels since then took and lost; never below none.
 * @param reel pieces when loaded, panels placed (one with circuits left out is a part of one) and pieces lost since; @param perPanel pieces a panel
 * @example piecesLeft({ loaded: 500, panels: 12, lost: 3 }, 40) // => 17
 */
export function piecesLeft(reel: { loaded: number; panels: number; lost: number }, perPanel: number): number {
	return Math.max(0, reel.loaded - Math.round(reel.panels * perPanel) - reel.lost);
}

/** The instant at which so much work is done by a line that stands in breaks.
 * @param fromMs now; @param panels to build; @param taktS seconds a panel; @param breaks in which the line stands, in any order
 * @throws {InputError} `out-of-range` for panels or takt that cannot be, or a break that ends before it begins
 */
export function stopClockMs(
	fromMs: number,
	panels: number,
	taktS: number,
	breaks: readonly { fromMs: number; toMs: number }[] = []
): number {
	requireRange('panels', panels, 0, 1e7);
	if (!(taktS > 0)) throw new InputError('out-of-range', 'taktS', 'more than 0 s', taktS);
	let atMs = fromMs;
	let leftMs = panels * taktS * 1000;
	for (const pause of [...breaks].sort((a, b) => a.fromMs - b.fromMs)) {
		if (!(pause.toMs >= pause.fromMs)) throw new InputError('out-of-range', 'breaks', 'an end after the beginning', pause.toMs);
		if (pause.toMs <= atMs) continue;
		const untilMs = Math.max(0, pause.fromMs - atMs);
		if (leftMs <= untilMs) break;
		leftMs -= untilMs;
		atMs = pause.toMs;
	}
	return atMs + leftMs;
}
