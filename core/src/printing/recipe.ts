import { InputError, requireRange } from '../judgement/index.ts';
import { BEAD_MM } from '../paste/index.ts';

export interface PrintRecipe {
	bladeMm: number;
	forceKgPerCm: number;
	/** What those centimetres are of: the blade, or the panel under it. Plants differ; both are reported. */
	forceBasis: 'blade' | 'panel';
	/** Diameter of the bead at the start. */
	beadMm: number;
	speedMmPerS: number;
	accelerationMmPerS2: number;
	angleDeg: number;
	separationMmPerS: number;
	separationMm: number;
	/** Print gap; on contact is 0. */
	gapMm: number;
	wipes: WipeStep[];
	/** Whether the longer-interval wipe replaces the other where two fall due together. */
	longerReplaces: boolean;
	handlingS: number;
	fiducialsS: number;
	strokes: number;
}

export const WIPE_KINDS = ['dry', 'wet', 'vacuum', 'wetVacuum'] as const;
export type WipeKind = (typeof WIPE_KINDS)[number];

export interface WipeStep {
	kind: WipeKind;
	everyPrints: number;
	seconds: number;
}

/** Blades that are stocked, mm (common practice). */
export const BLADES_MM = [150, 200, 250, 300, 350, 400, 450, 500, 550] as const;

/** Where each parameter starts, its usual range, and what moves it (all common practice). */
export const RECIPE_GUIDE = {
	forceKgPerCm: {
		start: 0.2,
		low: 0.15,
		high: 0.45,
		unit: 'kg/cm',
		note: 'raise until the foil wipes clean, no more; too much scoops, bleeds under and coins the foil'
	},
	speedMmPerS: { start: 40, low: 20, high: 100, unit: 'mm/s', note: 'fine pitch low; faster needs more force' },
	angleDeg: { start: 60, low: 45, high: 60, unit: '°', note: 'a lower angle packs more' },
	separationMmPerS: {
		start: 2,
		low: 0.3,
		high: 10,
		unit: 'mm/s',
		note: 'depends on the paste: older pastes slow, modern ones often 5 and more; peaks: change it and measure again'
	},
	separationMm: { start: 2, low: 1, high: 3, unit: 'mm', note: '' },
	gapMm: { start: 0, low: 0, high: 0, unit: 'mm', note: 'any gap gives excess and smear' }
} as const;

/** Cautions that a recipe earns: values outside the usual range, with what they do. */
export function recipeRemarks(recipe: PrintRecipe): { field: string; value: number; message: string }[] {
	return (Object.keys(RECIPE_GUIDE) as (keyof typeof RECIPE_GUIDE)[]).flatMap((field) => {
		const { low, high, unit, note } = RECIPE_GUIDE[field];
		const value = recipe[field];
		return value < low || value > high
			? [
					{
						field,
						value,
						message: `${value} ${unit} is outside the usual ${low === high ? low : `${low} to ${high}`} ${unit}${note ? `: ${note}` : ''}.`
					}
				]
			: [];
	});
}

/** A recipe to start from: board, paste and stencil give blade, stroke and force.
 * @param panelAcrossMm panel size along the blade, mm
 * @throws {InputError} where no stocked blade covers the panel
 */
export function startingPrintRecipe(panelAcrossMm: number, finestPitchMm: number | null): PrintRecipe {
	requireRange('panelAcrossMm', panelAcrossMm, 20, 530, 'mm');
	const bladeMm = BLADES_MM.find((b) => b >= panelAcrossMm + 20);
	if (bladeMm === undefined)
		throw new InputError('out-of-range', 'panelAcrossMm', `a panel of up to ${BLADES_MM.at(-1)! - 20} mm`, panelAcrossMm);
	return {
		bladeMm,
		forceKgPerCm: RECIPE_GUIDE.forceKgPerCm.start,
		forceBasis: 'blade',
		beadMm: BEAD_MM.start,
		speedMmPerS: finestPitchMm !== null && finestPitchMm <= 0.4 ? 30 : RECIPE_GUIDE.speedMmPerS.start,
		accelerationMmPerS2: 200,
		angleDeg: RECIPE_GUIDE.angleDeg.start,
		separationMmPerS: RECIPE_GUIDE.separationMmPerS.start,
		separationMm: RECIPE_GUIDE.separationMm.start,
		gapMm: 0,
		wipes: [
			{ kind: 'dry', everyPrints: 5, seconds: 10 },
			{ kind: 'wetVacuum', everyPrints: 10, seconds: 25 }
		],
		longerReplaces: true,
		handlingS: 8,
		fiducialsS: 2,
		strokes: 1
	};
}

/** Force on the whole blade, N: kg/cm × cm × 9.807.
 * @param lengthMm of the blade, or of the panel under it where the force is given by that
 */
export function bladeForceN(forceKgPerCm: number, lengthMm: number): number {
	return forceKgPerCm * (lengthMm / 10) * 9.807;
}

/** A recipe's force by length of blade, kg/cm, whichever length it was given by.
 * @param acrossMm panel along the blade
 */
export function forceOnBlade(recipe: Pick<PrintRecipe, 'forceKgPerCm' | 'forceBasis' | 'bladeMm'>, acrossMm: number): number {
	return recipe.forceBasis === 'blade' ? recipe.forceKgPerCm : (recipe.forceKgPerCm * acrossMm) / recipe.bladeMm;
}

export interface PrinterSetting {
	/** By length of the blade, kg/cm. */
	forceKgPerCm: number;
	speedMmPerS: number;
	separationMmPerS: number;
}

/** How a printer is to be set: by the step of the trial that is going on, else by the recipe; the force by length of its blade, whichever length it was given by.
 * @param trial force in the recipe's own terms, kg/cm, speed and separation, mm/s
 * @returns null where neither says it
 */
export function settingOf(
	recipe: Pick<PrintRecipe, 'forceKgPerCm' | 'forceBasis' | 'bladeMm' | 'speedMmPerS' | 'separationMmPerS'> | null,
	trial: { force: number; speed: number; separation: number } | null,
	acrossMm: number
): PrinterSetting | null {
	const onBlade = (forceKgPerCm: number) => (recipe ? forceOnBlade({ ...recipe, forceKgPerCm }, acrossMm) : forceKgPerCm);
	if (trial) return { forceKgPerCm: onBlade(trial.force), speedMmPerS: trial.speed, separationMmPerS: trial.separation };
	return (
		recipe && { forceKgPerCm: onBlade(recipe.forceKgPerCm), speedMmPerS: recipe.speedMmPerS, separationMmPerS: recipe.separationMmPerS }
	);
}

/** Time of one straight move, s: trapezoid, or triangle where the speed is never reached. */
export function strokeS(lengthMm: number, speedMmPerS: number, accelerationMmPerS2: number): number {
	requireRange('lengthMm', lengthMm, 0, 2000, 'mm');
	requireRange('speedMmPerS', speedMmPerS, 0.1, 2000, 'mm/s');
	requireRange('accelerationMmPerS2', accelerationMmPerS2, 1, 1e6, 'mm/s²');
	const ramp = speedMmPerS ** 2 / accelerationMmPerS2;
	return ramp <= lengthMm
		? (2 * speedMmPerS) / accelerationMmPerS2 + (lengthMm - ramp) / speedMmPerS
		: 2 * Math.sqrt(lengthMm / accelerationMmPerS2);
}

/** Length of a stroke: the print, with run-in and run-off of bead and 10 mm each. */
export function strokeLengthMm(printLengthMm: number, beadMm: number): number {
	return printLengthMm + 2 * (beadMm + 10);
}

/** Wipe time a panel, s, over the common period of the intervals.
 * @param longerReplaces where two fall due together the longer-interval one replaces the other
 * @example wipeSPerPanel([{ kind: 'dry', everyPrints: 5, seconds: 10 }, { kind: 'wet', everyPrints: 10, seconds: 25 }], true) // => 3.5
 */
export function wipeSPerPanel(wipes: readonly WipeStep[], longerReplaces: boolean): number {
	if (wipes.length === 0) return 0;
	for (const w of wipes) {
		if (!Number.isInteger(w.everyPrints) || w.everyPrints < 1 || w.everyPrints > 1000)
			throw new InputError('out-of-range', 'everyPrints', 'a whole number from 1 to 1000', w.everyPrints);
		requireRange('seconds', w.seconds, 0, 600, 's');
	}
	if (!longerReplaces) return wipes.reduce((sum, w) => sum + w.seconds / w.everyPrints, 0);
	const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));
	const period = wipes.reduce((l, w) => (l * w.everyPrints) / gcd(l, w.everyPrints), 1);
	const ordered = [...wipes].sort((a, b) => b.everyPrints - a.everyPrints);
	let total = 0;
	for (let n = 1; n <= period; n++) total += ordered.find((w) => n % w.everyPrints === 0)?.seconds ?? 0;
	return total / period;
}

/** The wipe that falls due after the n-th print since the run began; null for none. */
export function wipeAfter(prints: number, wipes: readonly WipeStep[], longerReplaces: boolean): WipeStep[] {
	const due = wipes.filter((w) => prints > 0 && prints % w.everyPrints === 0).sort((a, b) => b.everyPrints - a.everyPrints);
	return longerReplaces ? due.slice(0, 1) : due;
}

export interface PrintTime {
	strokeMm: number;
	strokeS: number;
	separationS: number;
	wipeS: number;
	cycleS: number;
	/** On the whole blade, and by its length: machines differ in which of the two they ask for. */
	forceN: number;
	forceNPerCm: number;
}

/** A panel as the blade meets it, mm. */
export interface PrintedPanel {
	/** Along the blade. */
	acrossMm: number;
	/** In the direction of the stroke. */
	alongMm: number;
}

/** Print cycle: handling + fiducials + strokes + separation + wipes shared out; and the force. */
export function printTime(recipe: PrintRecipe, panel: PrintedPanel): PrintTime {
	const strokeMm = strokeLengthMm(panel.alongMm, recipe.beadMm);
	const forceN = bladeForceN(forceOnBlade(recipe, panel.acrossMm), recipe.bladeMm);
	const one = strokeS(strokeMm, recipe.speedMmPerS, recipe.accelerationMmPerS2);
	const separationS = recipe.separationMm / recipe.separationMmPerS;
	const wipeS = wipeSPerPanel(recipe.wipes, recipe.longerReplaces);
	return {
		strokeMm,
		strokeS: one,
		separationS,
		wipeS,
		cycleS: recipe.handlingS + recipe.fiducialsS + recipe.strokes * one + separationS + wipeS,
		forceN,
		forceNPerCm: (10 * forceN) / recipe.bladeMm
	};
}

export interface Lever {
	what: string;
	buysS: number;
	/** What pulling it risks. */
	risk: string;
}

/** Where the printer sets the pace: what each lever buys, most seconds first. */
export function paceLevers(recipe: PrintRecipe, panel: PrintedPanel): Lever[] {
	const now = printTime(recipe, panel);
	const faster = printTime({ ...recipe, speedMmPerS: recipe.speedMmPerS * 1.25 }, panel);
	const longer = printTime({ ...recipe, wipes: recipe.wipes.map((w) => ({ ...w, everyPrints: w.everyPrints * 2 })) }, panel);
	const quicker = printTime({ ...recipe, separationMmPerS: recipe.separationMmPerS * 2 }, panel);
	return [
		{
			what: 'Twice the prints between wipes',
			buysS: now.cycleS - longer.cycleS,
			risk: 'small openings clog: only as far as the measured drift allows'
		},
		{
			what: `Print at ${(recipe.speedMmPerS * 1.25).toFixed(0)} mm/s`,
			buysS: now.cycleS - faster.cycleS,
			risk: 'needs more force; small openings fill less'
		},
		{
			what: `Separate at ${(recipe.separationMmPerS * 2).toFixed(1)} mm/s`,
			buysS: now.cycleS - quicker.cycleS,
			risk: 'peaks on some pastes: measure the next panels'
		}
	]
		.filter((l) => l.buysS > 0.05)
		.sort((a, b) => b.buysS - a.buysS);
}

/** Paste that one panel takes, g: ρ·Σ(A·T·TE) + wipe loss/interval + what is left at the stencil's ends/run length.
 * @param deliveredMm3 sum over all openings of the panel
 * @param wipeLossG a wipe, 0.1 to 0.3 g (common practice)
 */
export function pasteGPerPanel(
	deliveredMm3: number,
	pasteGPerCm3: number,
	wipes: readonly WipeStep[],
	wipeLossG = 0.2,
	endLossG = 0,
	runPanels = 1
): number {
	const shortest = Math.min(...wipes.map((w) => w.everyPrints), Infinity);
	return (deliveredMm3 / 1000) * pasteGPerCm3 + (Number.isFinite(shortest) ? wipeLossG / shortest : 0) + endLossG / runPanels;
}
