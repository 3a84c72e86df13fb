import { InputError, requireRange } from '../judgement/index.ts';

/** Mass of a bead: ρ·(π/4)·d²·L, g.
 * @param diameterMm of the roll; @param spanMm along the blade; @param pasteGPerCm3
 * @example beadG(16, 240, 4.2627) // => 205.7
 */
export function beadG(diameterMm: number, spanMm: number, pasteGPerCm3 = 4.2627): number {
	requireRange('diameterMm', diameterMm, 0, 60, 'mm');
	requireRange('spanMm', spanMm, 1, 1000, 'mm');
	return (pasteGPerCm3 * (Math.PI / 4) * diameterMm ** 2 * spanMm) / 1000;
}

/** Diameter of a bead of that mass, mm. */
export function beadDiameterMm(grams: number, spanMm: number, pasteGPerCm3 = 4.2627): number {
	requireRange('grams', grams, 0, 5000, 'g');
	return Math.sqrt((grams * 1000) / (pasteGPerCm3 * (Math.PI / 4) * spanMm));
}

/** Diameter to start with and the least that still rolls, mm (common practice: 15 to 20, and 10 to 12). */
export const BEAD_MM = { start: 16, least: 12 } as const;

/** Panels until the bead is at its least mass. */
export function panelsToTopUp(beadNowG: number, leastG: number, gPerPanel: number): number {
	if (!(gPerPanel > 0)) throw new InputError('out-of-range', 'gPerPanel', 'more than 0 g', gPerPanel);
	return Math.max(0, Math.floor((beadNowG - leastG) / gPerPanel + 1e-9));
}

/** Age of a bead that is topped up steadily: a stirred tank.
 * Mean age τ = bead / use; share older than a life = e^(−life/τ).
 * @example beadResidence(200, 0.15, 60, 8) // => { meanAgeH: 22.2, olderShare: 0.698 }
 */
export function beadResidence(
	beadMassG: number,
	gPerPanel: number,
	panelsPerH: number,
	lifeH: number
): { meanAgeH: number; olderShare: number } {
	const use = gPerPanel * panelsPerH;
	if (!(use > 0)) throw new InputError('out-of-range', 'gPerPanel', 'a use of more than 0 g an hour', use);
	const meanAgeH = beadMassG / use;
	return { meanAgeH, olderShare: Math.exp(-lifeH / meanAgeH) };
}

export interface BeadPortion {
	jar: string;
	lot: string;
	/** When this paste first lay on a stencil; what it had before counts back. */
	loadedMs: number;
	grams: number;
}

/** The bead after its events: every print takes from all portions in proportion (a stirred tank), every load adds one.
 * @param events loads and prints in any order
 * @returns the portions that are left, oldest first
 */
export function beadOf(
	events: readonly (
		| { atMs: number; kind: 'load'; jar: string; lot: string; grams: number; ageH?: number }
		| { atMs: number; kind: 'print'; grams: number }
		| { atMs: number; kind: 'clear' }
	)[],
	nowMs: number
): BeadPortion[] {
	let portions: BeadPortion[] = [];
	for (const e of [...events].sort((a, b) => a.atMs - b.atMs)) {
		if (e.atMs > nowMs) break;
		if (e.kind === 'clear') portions = [];
		else if (e.kind === 'load') portions.push({ jar: e.jar, lot: e.lot, loadedMs: e.atMs - (e.ageH ?? 0) * 3_600_000, grams: e.grams });
		else {
			const total = portions.reduce((sum, p) => sum + p.grams, 0);
			const kept = total > 0 ? Math.max(0, 1 - e.grams / total) : 0;
			for (const p of portions) p.grams *= kept;
		}
	}
	return portions.sort((a, b) => a.loadedMs - b.loadedMs);
}

/** What a bead is made of and how much of it is over age.
 * @param lifeH life on the stencil
 * @returns the oldest gram's clock (the default rule) beside the share that is over age (the other school's view)
 */
export function beadAge(
	portions: readonly BeadPortion[],
	nowMs: number,
	lifeH: number
): { grams: number; oldestEndsMs: number | null; meanAgeH: number; olderShare: number; lots: string[] } {
	const H = 3_600_000;
	const grams = portions.reduce((sum, p) => sum + p.grams, 0);
	const live = portions.filter((p) => p.grams > 1e-6);
	return {
		grams,
		oldestEndsMs: live.length ? Math.min(...live.map((p) => p.loadedMs)) + lifeH * H : null,
		meanAgeH: grams > 0 ? live.reduce((sum, p) => sum + (p.grams * (nowMs - p.loadedMs)) / H, 0) / grams : 0,
		olderShare: grams > 0 ? live.filter((p) => nowMs - p.loadedMs > lifeH * H).reduce((sum, p) => sum + p.grams, 0) / grams : 0,
		lots: [...new Set(live.map((p) => p.lot))]
	};
}

/** What a top-up adds at least, g, and the step that a person weighs in. */
const LEAST_TOP_UP_G = 20;
const WEIGHED_G = 10;

/** What brings a line's bead back to the size that it starts with, g, in tens.
 * @param portions what lies on the stencil; @param acrossMm length of the bead; null where no panel says it: then the least
 */
export function topUpG(portions: readonly Pick<BeadPortion, 'grams'>[], beadMm: number, acrossMm: number | null): number {
	const lies = portions.reduce((sum, p) => sum + p.grams, 0);
	const full = acrossMm === null ? 0 : beadG(beadMm, acrossMm);
	return Math.max(LEAST_TOP_UP_G, WEIGHED_G * Math.round((full - lies) / WEIGHED_G));
}
