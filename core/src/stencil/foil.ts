import { noData, type Verdict } from '../judgement/index.ts';
import {
	areaRatioLimit,
	ASPECT_LIMIT,
	boardSideAreaMm2,
	forecastOpening,
	type Opening,
	type OpeningForecast,
	type Wall
} from './ratios.ts';
import { DEFAULT_TRANSFER, type ShapeFactor, type TransferModel } from './transfer.ts';
import { atLeast, atMost } from '../numerics/index.ts';

/** Foils that stencil makers keep, mm (common practice; 3 to 6 mil). */
export const STOCK_FOILS_MM = [0.08, 0.1, 0.12, 0.127, 0.15] as const;

export interface NamedOpening extends Opening {
	/** "U7 pin 23", or "U7 opening 4, pin unknown". */
	name: string;
}

/** How a stencil is made, and what is known of what it leaves behind. */
export interface StencilMake {
	/** How much wider an opening is at the board side, µm over its whole width; null where nobody measured it: the walls count as straight. */
	taperUm: number | null;
	/** Each shape's own factor on the transfer curve, on this wall with this paste. */
	factors: readonly ShapeFactor[];
}

/** Openings as they are made: with their area at the board side, and their shape's own factor. */
export function asMade<T extends Opening & { shape: string }>(
	openings: readonly T[],
	{ taperUm, factors }: StencilMake
): (T & Pick<Opening, 'boardSideAreaMm2' | 'transferFactor'>)[] {
	const factorOf = new Map(factors.map((f) => [f.shape, f.factor]));
	return openings.map((o) => ({
		...o,
		transferFactor: factorOf.get(o.shape) ?? 1,
		...(taperUm ? { boardSideAreaMm2: boardSideAreaMm2(o, taperUm) } : {})
	}));
}

/** Paste that all openings deliver, mm³: our model. */
export function deliveredMm3(openings: readonly Opening[], foilMm: number, wall: Wall, model: TransferModel = DEFAULT_TRANSFER): number {
	return openings.reduce((sum, o) => sum + forecastOpening(o, foilMm, wall, model).deliveredNl, 0) / 1000;
}

export interface StencilCheck {
	forecasts: OpeningForecast[];
	/** Indices of the openings, the nearest to its limit first. */
	ranking: number[];
	counts: Record<OpeningForecast['result'], number>;
	/** Sum of what is delivered, mm³. */
	deliveredMm3: number;
	/** Stock foils at which every opening passes, thickest first. */
	workingFoilsMm: number[];
	verdict: Verdict;
}

/** Checks every opening at one foil and says whether this foil works and which would.
 * @param openings in their stable order
 * @param foilMm 0.03 to 0.30 mm
 * @throws {InputError} where the foil is out of range
 */
export function checkStencil(
	openings: readonly NamedOpening[],
	foilMm: number,
	wall: Wall,
	model: TransferModel = DEFAULT_TRANSFER
): StencilCheck {
	const forecasts = openings.map((opening) => forecastOpening(opening, foilMm, wall, model));
	const ranking = forecasts.map((_, i) => i).sort((a, b) => forecasts[a]!.use - forecasts[b]!.use || a - b);
	const counts = { pass: 0, marginal: 0, fail: 0 };
	for (const f of forecasts) counts[f.result]++;
	const tightest = Math.min(...forecasts.map((f) => f.thickestMm));
	const workingFoilsMm = STOCK_FOILS_MM.filter((foil) => atMost(foil, tightest)).reverse();
	return {
		forecasts,
		ranking,
		counts,
		deliveredMm3: forecasts.reduce((sum, f) => sum + f.deliveredNl, 0) / 1000,
		workingFoilsMm,
		verdict: judge(openings, forecasts, ranking[0], counts, workingFoilsMm, foilMm, wall)
	};
}

function judge(
	openings: readonly NamedOpening[],
	forecasts: readonly OpeningForecast[],
	worst: number | undefined,
	counts: StencilCheck['counts'],
	working: readonly number[],
	foilMm: number,
	wall: Wall
): Verdict {
	if (worst === undefined) return noData('No openings to check.', ['Upload the paste layer']);
	const opening = openings[worst]!;
	const f = forecasts[worst]!;
	const um = (mm: number) => `${Math.round(mm * 1000)} µm`;
	const limit = areaRatioLimit(opening, wall);
	const because = [
		f.ruledBy === 'area'
			? {
					quantity: `Area ratio of ${opening.name}`,
					value: f.areaRatio,
					unit: '',
					limit: `at least ${limit.limit}, ${limit.name}`,
					source: limit.source,
					formula: `${opening.areaMm2.toFixed(4)} mm² / (${opening.perimeterMm.toFixed(3)} mm · ${foilMm} mm)`
				}
			: {
					quantity: `Aspect ratio of ${opening.name}`,
					value: f.aspectRatio,
					unit: '',
					limit: `at least ${ASPECT_LIMIT}, because its length is over five widths`,
					source: 'IPC-7525 (value from memory)',
					formula: `${opening.widthMm.toFixed(3)} mm / ${foilMm} mm`
				},
		{
			quantity: 'Thickest foil for that opening',
			value: f.thickestMm * 1000,
			unit: 'µm',
			limit: null,
			source: 'from the same ratio'
		},
		{
			quantity: 'Paste delivered, all openings',
			value: forecasts.reduce((sum, g) => sum + g.deliveredNl, 0) / 1000,
			unit: 'mm³',
			limit: null,
			source: 'our transfer model, to be fitted to your own volumes'
		}
	];
	const thickest = working[0];
	const would = thickest === undefined ? null : um(thickest);
	if (counts.fail > 0)
		return {
			level: 'act',
			statement: `${um(foilMm)} does not work: ${counts.fail} of ${openings.length} openings release badly, ${opening.name} worst.`,
			because,
			doNext: would
				? [`Take ${would}: every opening passes`]
				: [`No stock foil works: ${opening.name} needs ${um(f.thickestMm)} or thinner`, 'Enlarge those openings, or choose finer walls']
		};
	const thicker = thickest !== undefined && thickest > foilMm ? `${would} would work too and carries more paste` : null;
	if (counts.marginal > 0)
		return {
			level: 'watch',
			statement: `${um(foilMm)} works; ${counts.marginal} openings are close to the limit, ${opening.name} nearest.`,
			because,
			doNext: ['Watch those openings at paste check', ...(thicker ? [thicker] : [])]
		};
	return {
		level: 'good',
		statement: `${um(foilMm)} works for all ${openings.length} openings.`,
		because,
		doNext: thicker ? [thicker] : [`Order ${um(foilMm)}: it is the thickest stock foil that works`]
	};
}

/** The openings nearest to their limit, one of each size.
 * @param first an opening that comes before them all; null for none
 * @returns indices, at most `most`
 */
export function hardestOpenings(
	openings: readonly NamedOpening[],
	foilMm: number,
	wall: Wall,
	model: TransferModel,
	first: number | null = null,
	most = 4
): number[] {
	const sizes = new Map<string, number>();
	const { ranking } = checkStencil(openings, foilMm, wall, model);
	for (const i of [...(first !== null && openings[first] ? [first] : []), ...ranking]) {
		const size = `${openings[i]!.areaMm2.toFixed(4)} ${openings[i]!.perimeterMm.toFixed(3)}`;
		if (!sizes.has(size)) sizes.set(size, i);
		if (sizes.size === most) break;
	}
	return [...sizes.values()];
}

/** What one opening delivers at each foil, nL; null where its area ratio lies outside those that were measured: the curve says nothing there.
 * @param measured area ratios from and to; null where nothing was measured
 */
export function deliveredByFoil(
	opening: Opening,
	foilsMm: readonly number[],
	wall: Wall,
	model: TransferModel,
	measured: { from: number; to: number } | null
): (number | null)[] {
	return foilsMm.map((foilMm) => {
		const { areaRatio, deliveredNl } = forecastOpening(opening, foilMm, wall, model);
		return measured && atLeast(areaRatio, measured.from) && atMost(areaRatio, measured.to) ? deliveredNl : null;
	});
}
