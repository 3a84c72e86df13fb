import { requireRange } from '../judgement/index.ts';

/** What of an opening the ratios need; any shape. */
export interface Opening {
	areaMm2: number;
	perimeterMm: number;
	/** Governing width. */
	widthMm: number;
	lengthMm: number;
}

export type Wall = 'laser' | 'fineGrain' | 'electropolished' | 'nanoCoated';

/** Least area ratio by how the walls were made.
 * @see 0.66 is IPC-7525 (value from memory); the others are common practice, values to start from
 */
export const AREA_RATIO_LIMIT: Record<Wall, { limit: number; name: string; source: string }> = {
	laser: { limit: 0.66, name: 'plain laser cut', source: 'IPC-7525 (value from memory)' },
	fineGrain: { limit: 0.62, name: 'fine-grain steel', source: 'common practice' },
	electropolished: { limit: 0.6, name: 'electropolished', source: 'common practice' },
	nanoCoated: { limit: 0.55, name: 'nano-coated fine grain', source: 'common practice' }
};

/** @see IPC-7525 (value from memory) */
export const ASPECT_LIMIT = 1.5;
/** Above this length in widths the aspect ratio rules, below it the area ratio (IPC-7525, value from memory). */
const SLOT_LENGTH_IN_WIDTHS = 5;
const MARGINAL = 0.03;

/** Transfer model: share of the opening's volume that is delivered, and its spread.
 * TE = TEmax/(1+e^(−k(AR−a0))), CV% = 4+16·e^(−(AR−0.5)/0.15): our model, to be fitted to measured volumes.
 * @param areaRatio > 0
 * @returns efficiency as a fraction, spread as a percentage
 * @example transfer(0.66).efficiency // => 0.7996...
 */
export function transfer(areaRatio: number, wall: Wall = 'laser'): { efficiency: number; cvPct: number } {
	const a0 = wall === 'nanoCoated' ? 0.473 - 0.06 : 0.473;
	return {
		efficiency: 1 / (1 + Math.exp(-7.4 * (areaRatio - a0))),
		cvPct: 4 + 16 * Math.exp(-(areaRatio - 0.5) / 0.15)
	};
}

export interface OpeningForecast {
	/** Opening area / wall area. */
	areaRatio: number;
	/** Governing width / foil thickness. */
	aspectRatio: number;
	/** Opening area x foil thickness, nL. */
	volumeNl: number;
	/** Volume x transfer efficiency, nL: our model. */
	deliveredNl: number;
	efficiency: number;
	cvPct: number;
	/** Which ratio decides for this shape. */
	ruledBy: 'area' | 'aspect';
	/** The deciding ratio over its limit; below 1 fails. */
	use: number;
	result: 'pass' | 'marginal' | 'fail';
	/** Thickest foil at which the deciding ratio still meets its limit, mm. */
	thickestMm: number;
}

/** Area ratio, aspect ratio and volume of one opening.
 * @param opening any shape, mm and mm²
 * @param foilMm thickness, 0.03 to 0.30 mm
 * @throws {InputError} `out-of-range`: a foil of 120 is µm typed as mm
 * @see IPC-7525 (values from memory): AR >= 0.66 and, where the length is over five widths, aspect >= 1.5
 */
export function forecastOpening(opening: Opening, foilMm: number, wall: Wall = 'laser'): OpeningForecast {
	requireRange('foilMm', foilMm, 0.03, 0.3, 'mm');
	const areaRatio = opening.areaMm2 / (opening.perimeterMm * foilMm);
	const aspectRatio = opening.widthMm / foilMm;
	const { limit } = AREA_RATIO_LIMIT[wall];
	const ruledBy = opening.lengthMm > SLOT_LENGTH_IN_WIDTHS * opening.widthMm ? 'aspect' : 'area';
	const [ratio, least] = ruledBy === 'aspect' ? [aspectRatio, ASPECT_LIMIT] : [areaRatio, limit];
	const { efficiency, cvPct } = transfer(areaRatio, wall);
	const volumeNl = opening.areaMm2 * foilMm * 1000;
	return {
		areaRatio,
		aspectRatio,
		volumeNl,
		deliveredNl: volumeNl * efficiency,
		efficiency,
		cvPct,
		ruledBy,
		use: ratio / least,
		// The same opening at the limit to the last bit passes: float noise must not fail it.
		result: ratio < least - 1e-9 ? 'fail' : ratio < least + MARGINAL ? 'marginal' : 'pass',
		thickestMm: ruledBy === 'aspect' ? opening.widthMm / ASPECT_LIMIT : opening.areaMm2 / (opening.perimeterMm * limit)
	};
}
