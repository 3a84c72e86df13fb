import { InputError, type Verdict } from '../judgement/index.ts';
import { normalCdf, atLeast, atMost } from '../numerics/index.ts';
import { STOCK_FOILS_MM, type NamedOpening } from './foil.ts';
import { areaRatioLimit, forecastOpening, WALLS, type Wall } from './ratios.ts';
import { DEFAULT_TRANSFER, type TransferModel } from './transfer.ts';

/** An opening with what it has to deliver. */
export interface NeedyOpening extends NamedOpening {
	/** Paste that the joint needs, mm³: coplanarity, pin in paste. None where it is left out. */
	neededMm3?: number;
}

export interface Alternative {
	what: string;
	/** What it would take, in numbers. */
	how: string;
}

export interface FoilChoice {
	kind: 'single' | 'step' | 'none';
	/** The foil, or the thicker base of a stepped one, mm. */
	foilMm: number | null;
	/** The thinner area of a stepped foil, mm. */
	stepMm: number | null;
	stepUm: number;
	/** Least distance across the edge of the step between an opening inside and one outside, mm. */
	keepOutMm: number | null;
	/** Indices of the openings that lie in the step. */
	inStep: number[];
	/** The opening that needs the thinnest foil, and how thin. */
	worst: { index: number; name: string; thickestMm: number; areaRatioLimit?: number } | null;
	/** Openings that get too little paste at the thickest foil that all of them release from. */
	short: { index: number; name: string; deliveredMm3: number; neededMm3: number }[];
	alternatives: Alternative[];
	verdict: Verdict;
}

/** Deepest step without special care, µm (common practice). */
export const DEEPEST_STEP_UM = 50;

/** From an opening in a step to the edge of the step, mm: 0.9 for each 25 µm of depth.
 * @see IPC-7525 (value from memory, fairly sure)
 */
export function stepInsideMm(depthUm: number): number {
	return (0.9 * depthUm) / 25;
}

/** Least distance across the edge of a step: 0.9 mm for each 25 µm inside, 0.65 mm outside.
 * @see IPC-7525 (value from memory, fairly sure)
 */
export function stepKeepOutMm(depthUm: number): number {
	return stepInsideMm(depthUm) + 0.65;
}

/** The foil that lets every opening go and gives every joint its paste; a step where one thickness cannot; numbers for the ways out where a step cannot.
 * @param foilsMm foils to choose from
 * @throws {InputError} `empty`
 */
export function chooseFoil(
	openings: readonly NeedyOpening[],
	wall: Wall = 'laser',
	model: TransferModel = DEFAULT_TRANSFER,
	foilsMm: readonly number[] = STOCK_FOILS_MM
): FoilChoice {
	if (openings.length === 0) throw new InputError('empty', 'openings', 'at least one opening', openings);
	if (foilsMm.length === 0) throw new InputError('empty', 'foilsMm', 'at least one foil', foilsMm);
	const foils = [...foilsMm].sort((a, b) => a - b);
	const thickest = openings.map((o) => forecastOpening(o, foils[0]!, wall, model).thickestMm);
	const releases = (i: number, t: number) => atMost(t, thickest[i]!);
	const delivered = (i: number, t: number) => forecastOpening(openings[i]!, t, wall, model).deliveredNl / 1000;
	const enough = (i: number, t: number) => atLeast(delivered(i, t), openings[i]!.neededMm3 ?? 0);
	const all = openings.map((_, i) => i);
	let worstIndex = 0;
	for (const i of all) if (thickest[i]! < thickest[worstIndex]!) worstIndex = i;
	const { name, areaRatioLimit: own } = openings[worstIndex]!;
	const worst = { index: worstIndex, name, thickestMm: thickest[worstIndex]!, ...(own === undefined ? {} : { areaRatioLimit: own }) };
	const needy = all.filter((i) => (openings[i]!.neededMm3 ?? 0) > 0);
	const releasing = foils.filter((t) => atMost(t, worst.thickestMm));
	const single = releasing.filter((t) => needy.every((i) => enough(i, t))).at(-1);
	const base = { inStep: [] as number[], worst, keepOutMm: null, stepUm: 0, stepMm: null, alternatives: [] as Alternative[] };
	if (single !== undefined) {
		const short: FoilChoice['short'] = [];
		return {
			...base,
			kind: 'single',
			foilMm: single,
			short,
			verdict: said('good', `One foil of ${um(single)} serves every opening.`, worst, wall, [`Order ${um(single)}`])
		};
	}
	const at = releasing.at(-1) ?? foils[0]!;
	const short = needy
		.filter((i) => !enough(i, at))
		.map((i) => ({ index: i, name: openings[i]!.name, deliveredMm3: delivered(i, at), neededMm3: openings[i]!.neededMm3! }));
	const thickBase = foils.find((t) => needy.every((i) => enough(i, t) && releases(i, t)));
	if (thickBase !== undefined) {
		const failing = all.filter((i) => !releases(i, thickBase));
		const step = foils.filter((t) => t < thickBase && failing.every((i) => releases(i, t) && enough(i, t))).at(-1);
		const depth = step === undefined ? Infinity : Math.round((thickBase - step) * 1e6) / 1000;
		if (step !== undefined && atMost(depth, DEEPEST_STEP_UM)) {
			const keepOutMm = stepKeepOutMm(depth);
			return {
				...base,
				kind: 'step',
				foilMm: thickBase,
				stepMm: step,
				stepUm: depth,
				keepOutMm,
				inStep: failing,
				short,
				verdict: said(
					'watch',
					`${um(thickBase)} with a step down to ${um(step)} under ${failing.length} openings; ${keepOutMm.toFixed(2)} mm clear across its edge.`,
					worst,
					wall,
					[`Order ${um(thickBase)} with the step`, 'Check the distance across the edge of the step']
				)
			};
		}
	}
	const alternatives = waysOut(openings, wall, model, foils, at, short, thickBase, worst);
	return {
		...base,
		kind: 'none',
		foilMm: null,
		short,
		alternatives,
		verdict: said(
			'act',
			releasing.length === 0
				? `No foil works: ${worst.name} needs ${um(worst.thickestMm)} or thinner.`
				: `No foil and no step of ${DEEPEST_STEP_UM} µm or less serves them all: ${worst.name} needs ${um(worst.thickestMm)} or thinner, ${short[0]?.name ?? 'a large joint'} needs more paste.`,
			worst,
			wall,
			alternatives.map((a) => `${a.what}: ${a.how}`)
		)
	};
}

function waysOut(
	openings: readonly NeedyOpening[],
	wall: Wall,
	model: TransferModel,
	foils: readonly number[],
	at: number,
	short: FoilChoice['short'],
	thickBase: number | undefined,
	worst: NonNullable<FoilChoice['worst']>
): Alternative[] {
	const out: Alternative[] = [];
	if (short.length) {
		const scale = Math.max(...short.map((s) => Math.sqrt(s.neededMm3 / s.deliveredMm3)));
		out.push({ what: 'Enlarge the large openings', how: `by ${((scale - 1) * 100).toFixed(0)} % in each direction at ${um(at)}` });
	}
	if (wall !== 'nanoCoated') {
		const coated = chooseFoil(openings, 'nanoCoated', model, foils);
		if (coated.kind !== 'none')
			out.push({
				what: 'Coat the foil',
				how:
					coated.kind === 'single'
						? `${um(coated.foilMm!)} then serves them all`
						: `${um(coated.foilMm!)} with a step to ${um(coated.stepMm!)} then serves them`
			});
	}
	const small = foils.filter((t) => atMost(t, worst.thickestMm)).at(-1);
	if (small !== undefined && thickBase !== undefined)
		out.push({
			what: 'Split the job',
			how: `print the small openings at ${um(small)}, dispense or print the large ones for ${um(thickBase)}`
		});
	return out;
}

const um = (mm: number) => `${Number((mm * 1000).toFixed(1))} µm`;

function said(level: Verdict['level'], statement: string, worst: NonNullable<FoilChoice['worst']>, wall: Wall, doNext: string[]): Verdict {
	return {
		level,
		statement,
		doNext,
		because: [
			{
				quantity: `Thickest foil for ${worst.name}`,
				value: worst.thickestMm * 1000,
				unit: 'µm',
				limit: `area ratio of at least ${areaRatioLimit(worst, wall).limit}`,
				source: areaRatioLimit(worst, wall).source
			}
		]
	};
}

/** An opening with the lowest volume that passes, % of nominal. */
export type LimitedOpening = NamedOpening & { lowPct: number };

/** Expected pads with too little paste in 1000 panels: Σ Φ((limit − mean)/σ), from the transfer model.
 * @param foilMm of the foil, or of each opening where a step lies under some
 * @see our model; with the plant's own fit it is a forecast of that plant
 */
export function expectedShortPads(
	openings: readonly LimitedOpening[],
	foilMm: number | ((opening: number) => number),
	wall: Wall,
	model: TransferModel = DEFAULT_TRANSFER
): number {
	let sum = 0;
	openings.forEach((o, i) => {
		const mm = typeof foilMm === 'number' ? foilMm : foilMm(i);
		const { deliveredNl, cvPct } = forecastOpening(o, mm, wall, model);
		// An inspection unit's 100 % are the opening as it was drawn, whatever its walls.
		const share = deliveredNl / (o.areaMm2 * mm * 1000);
		sum += normalCdf((o.lowPct / 100 - share) / ((cvPct / 100) * share));
	});
	return 1000 * sum;
}

/** One way to make the stencil. */
export interface FoilAlternative {
	wall: Wall;
	foilMm: number;
	/** The thinner area of a stepped foil, mm. */
	stepMm: number | null;
	shortPads: number;
	/** Whether every opening keeps its ratio and every joint gets its paste. */
	works: boolean;
}

/** Every stock foil with every wall, and the step that a wall asks for: expected pads short in 1000 panels.
 * @param openingsOf the openings with what is known of them on that wall
 */
export function foilAlternatives(
	openingsOf: (wall: Wall) => readonly (NeedyOpening & LimitedOpening)[],
	model: TransferModel = DEFAULT_TRANSFER,
	foilsMm: readonly number[] = STOCK_FOILS_MM
): FoilAlternative[] {
	return WALLS.flatMap((wall) => {
		const openings = openingsOf(wall);
		const single = foilsMm.map((foilMm): FoilAlternative => ({
			wall,
			foilMm,
			stepMm: null,
			shortPads: expectedShortPads(openings, foilMm, wall, model),
			works: openings.every((o) => {
				const f = forecastOpening(o, foilMm, wall, model);
				return f.result !== 'fail' && atLeast(f.deliveredNl / 1000, o.neededMm3 ?? 0);
			})
		}));
		const choice = chooseFoil(openings, wall, model, foilsMm);
		if (choice.kind !== 'step') return single;
		const { foilMm, stepMm } = choice as { foilMm: number; stepMm: number };
		const within = new Set(choice.inStep);
		const shortPads = expectedShortPads(openings, (i) => (within.has(i) ? stepMm : foilMm), wall, model);
		return [...single, { wall, foilMm, stepMm, shortPads, works: true }];
	});
}
