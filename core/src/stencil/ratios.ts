import { InputError, requireRange } from '../judgement/index.ts';
import { DEFAULT_TRANSFER, transferCvPct, transferEfficiency, type TransferModel } from './transfer.ts';
import { atLeast } from '../numerics/index.ts';

/** What of an opening the ratios need; any shape. */
export interface Opening {
	areaMm2: number;
	perimeterMm: number;
	/** Governing width. */
	widthMm: number;
	lengthMm: number;
	/** Its area at the board side, where the taper of the walls is known: the volume is that of the mean of both. */
	boardSideAreaMm2?: number;
	/** Least area ratio of this very opening, where a trial has shown another than the wall's: 0.3 to 1.5. */
	areaRatioLimit?: number;
	/** Its shape's own factor on the transfer curve; 1 where none is known. */
	transferFactor?: number;
}

/** Widest taper that a cut wall has, µm over the whole width of an opening (common practice: 2 to 10 µm). */
export const MOST_TAPER_UM = 30;

/** Area of an opening at the board side, where laser-cut walls let it widen: its outline moved outwards by half the taper, with round corners.
 * @param taperUm how much wider the opening is there, over its whole width; 0 to 30
 * @returns mm²
 * @throws {InputError} `out-of-range`
 * @example boardSideAreaMm2({ areaMm2: 0.5, perimeterMm: 3 }, 8) // => 0.51205
 */
export function boardSideAreaMm2({ areaMm2, perimeterMm }: Pick<Opening, 'areaMm2' | 'perimeterMm'>, taperUm: number): number {
	requireRange('taperUm', taperUm, 0, MOST_TAPER_UM, 'µm');
	const outwardsMm = taperUm / 2000;
	return areaMm2 + perimeterMm * outwardsMm + Math.PI * outwardsMm ** 2;
}

export const WALLS = ['laser', 'fineGrain', 'electropolished', 'electroformed', 'nanoCoated'] as const;
export type Wall = (typeof WALLS)[number];

/** Least area ratio by how the walls were made.
 * @see 0.66 is IPC-7525 (value from memory); the others are common practice, values to start from
 */
export const AREA_RATIO_LIMIT: Record<Wall, { limit: number; name: string; source: string }> = {
	laser: { limit: 0.66, name: 'plain laser cut', source: 'IPC-7525 (value from memory)' },
	fineGrain: { limit: 0.62, name: 'fine-grain steel', source: 'common practice' },
	electropolished: { limit: 0.6, name: 'electropolished', source: 'common practice' },
	electroformed: { limit: 0.55, name: 'electroformed', source: 'common practice' },
	nanoCoated: { limit: 0.55, name: 'nano-coated fine grain', source: 'common practice' }
};

/** The least area ratio that an opening goes by: its own where it carries one, else its wall's. */
export function areaRatioLimit(
	{ areaRatioLimit: own }: Pick<Opening, 'areaRatioLimit'>,
	wall: Wall
): { limit: number; name: string; source: string } {
	return own === undefined
		? AREA_RATIO_LIMIT[wall]
		: { limit: own, name: 'of this opening', source: 'the plant’s own, carried by the opening' };
}

/** What an opening's own least area ratio may be. */
export const OWN_LIMIT = { least: 0.3, most: 1.5 } as const;

/** Openings with the least area ratios that some of them carry, by index.
 * @example withOwnLimits([{ areaMm2: 1, perimeterMm: 4, widthMm: 1, lengthMm: 1 }], { 0: 0.7 })[0]?.areaRatioLimit // => 0.7
 */
export function withOwnLimits<T extends Opening>(openings: readonly T[], own: Readonly<Record<string, number>>): T[] {
	return openings.map((opening, i) => (own[i] === undefined ? opening : { ...opening, areaRatioLimit: own[i] }));
}

/** @see IPC-7525 (value from memory) */
export const ASPECT_LIMIT = 1.5;
/** Above this length in widths the aspect ratio rules, below it the area ratio (IPC-7525, value from memory). */
const SLOT_LENGTH_IN_WIDTHS = 5;
const MARGINAL = 0.03;

/** How far a coating moves the curve towards small openings (our model). */
const COATED_A0 = -0.06;

/** The transfer curve for a wall: a coating lets smaller openings go. */
export function wallModel(wall: Wall, model: TransferModel = DEFAULT_TRANSFER): TransferModel {
	return wall === 'nanoCoated' ? { ...model, a0: model.a0 + COATED_A0 } : model;
}

/** The plant's curve from one that was fitted on a wall: what a coating adds is taken out again. */
export function plantModel(wall: Wall, fitted: TransferModel): TransferModel {
	return wall === 'nanoCoated' ? { ...fitted, a0: fitted.a0 - COATED_A0 } : fitted;
}

/** Transfer model: share of the opening's volume that is delivered, and its spread.
 * @param areaRatio > 0
 * @returns efficiency as a fraction, spread as a percentage
 * @example transfer(0.66).efficiency // => 0.7996...
 */
export function transfer(
	areaRatio: number,
	wall: Wall = 'laser',
	model: TransferModel = DEFAULT_TRANSFER
): { efficiency: number; cvPct: number } {
	return { efficiency: transferEfficiency(areaRatio, wallModel(wall, model)), cvPct: transferCvPct(areaRatio) };
}

export interface OpeningForecast {
	/** Opening area / wall area. */
	areaRatio: number;
	/** Governing width / foil thickness. */
	aspectRatio: number;
	/** Opening area x foil thickness, nL; the mean of both sides' areas where they differ. */
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
	/** Every ratio below its limit, the one that does not decide too. */
	below: ('area' | 'aspect')[];
	/** Thickest foil at which the deciding ratio still meets its limit, mm. */
	thickestMm: number;
}

/** Thickness of a foil, mm. */
const FOIL_MM = { min: 0.03, max: 0.3 };

/** Area ratio, aspect ratio and volume of one opening.
 * @param opening any shape, mm and mm²
 * @param foilMm thickness, 0.03 to 0.30 mm
 * @throws {InputError} `out-of-range`: a foil of 120 is µm typed as mm
 * @see IPC-7525 (values from memory): AR >= 0.66 and, where the length is over five widths, aspect >= 1.5
 */
export function forecastOpening(
	opening: Opening,
	foilMm: number,
	wall: Wall = 'laser',
	model: TransferModel = DEFAULT_TRANSFER
): OpeningForecast {
	const { min, max } = FOIL_MM;
	// The usual slip: 120 µm typed where mm are asked for.
	if (foilMm >= min * 1000 && foilMm <= max * 1000)
		throw new InputError('out-of-range', 'foilMm', `${min} to ${max} mm (µm typed as mm? ${foilMm} µm are ${foilMm / 1000} mm)`, foilMm);
	requireRange('foilMm', foilMm, min, max, 'mm');
	const areaRatio = opening.areaMm2 / (opening.perimeterMm * foilMm);
	const aspectRatio = opening.widthMm / foilMm;
	if (opening.areaRatioLimit !== undefined) requireRange('areaRatioLimit', opening.areaRatioLimit, OWN_LIMIT.least, OWN_LIMIT.most);
	const { limit } = areaRatioLimit(opening, wall);
	const ruledBy = opening.lengthMm > SLOT_LENGTH_IN_WIDTHS * opening.widthMm ? 'aspect' : 'area';
	const [ratio, least] = ruledBy === 'aspect' ? [aspectRatio, ASPECT_LIMIT] : [areaRatio, limit];
	const { efficiency: ofCurve, cvPct } = transfer(areaRatio, wall, model);
	const efficiency = ofCurve * (opening.transferFactor ?? 1);
	const below: OpeningForecast['below'] = [];
	if (!atLeast(areaRatio, limit)) below.push('area');
	if (!atLeast(aspectRatio, ASPECT_LIMIT)) below.push('aspect');
	if (opening.boardSideAreaMm2 !== undefined && !(opening.boardSideAreaMm2 > 0))
		throw new InputError('out-of-range', 'boardSideAreaMm2', 'more than 0 mm²', opening.boardSideAreaMm2);
	const volumeNl = ((opening.areaMm2 + (opening.boardSideAreaMm2 ?? opening.areaMm2)) / 2) * foilMm * 1000;
	return {
		areaRatio,
		aspectRatio,
		volumeNl,
		deliveredNl: volumeNl * efficiency,
		efficiency,
		cvPct,
		ruledBy,
		use: ratio / least,
		below,
		// The same opening at the limit to the last bit passes: float noise must not fail it.
		result: !atLeast(ratio, least) ? 'fail' : !atLeast(ratio, least + MARGINAL) ? 'marginal' : 'pass',
		thickestMm: ruledBy === 'aspect' ? opening.widthMm / ASPECT_LIMIT : opening.areaMm2 / (opening.perimeterMm * limit)
	};
}
