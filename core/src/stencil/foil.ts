import { noData, type Verdict } from '../judgement/index.ts';
import { AREA_RATIO_LIMIT, ASPECT_LIMIT, forecastOpening, type Opening, type OpeningForecast, type Wall } from './ratios.ts';
import { DEFAULT_TRANSFER, type TransferModel } from './transfer.ts';

/** Foils that stencil makers keep, mm (common practice; 3 to 6 mil). */
export const STOCK_FOILS_MM = [0.08, 0.1, 0.12, 0.127, 0.15] as const;

export interface NamedOpening extends Opening {
	/** "U7 pin 23", or "U7 opening 4, pin unknown". */
	name: string;
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
	const workingFoilsMm = STOCK_FOILS_MM.filter((foil) => foil <= tightest + 1e-9).reverse();
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
	const limit = AREA_RATIO_LIMIT[wall];
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
	const thicker = thickest !== undefined && thickest > foilMm + 1e-9 ? `${would} would work too and carries more paste` : null;
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
		return measured && areaRatio >= measured.from - 1e-9 && areaRatio <= measured.to + 1e-9 ? deliveredNl : null;
	});
}
