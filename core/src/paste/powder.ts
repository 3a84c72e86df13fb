import { requireRange, type Verdict } from '../judgement/index.ts';
import { atLeast, below } from '../numerics/index.ts';

/** Powder types, coarsest first: 80 % of the mass or more lies in the range, µm.
 * @see J-STD-005 (values from memory; some standards give type 5 as 10 to 25)
 */
export const POWDERS = [
	{ type: 'T3', lowUm: 25, highUm: 45 },
	{ type: 'T4', lowUm: 20, highUm: 38 },
	{ type: 'T5', lowUm: 15, highUm: 25 },
	{ type: 'T6', lowUm: 5, highUm: 15 }
] as const;
export type PowderType = (typeof POWDERS)[number]['type'];
export const POWDER_TYPES = POWDERS.map((p) => p.type);

/** Narrowest opening for a powder, µm: five of the largest balls across a slot, eight across a circle (common practice; the second is one school's). */
export function narrowestUm(type: PowderType, shape: 'slot' | 'circle', school: 'five' | 'eight' = 'five'): number {
	const { highUm } = POWDERS.find((p) => p.type === type)!;
	return highUm * (shape === 'circle' && school === 'eight' ? 8 : 5);
}

/** The coarsest powder that passes: finer powder oxidises faster, slumps and balls more, and costs more.
 * @param widthUm governing width of the narrowest opening, µm
 * @returns null where even type 6 is too coarse
 */
export function suggestPowder(widthUm: number, shape: 'slot' | 'circle' = 'slot', school: 'five' | 'eight' = 'five'): PowderType | null {
	requireRange('widthUm', widthUm, 1, 20_000, 'µm');
	return POWDERS.find((p) => atLeast(widthUm, narrowestUm(p.type, shape, school)))?.type ?? null;
}

/** Whether a paste's powder goes through the narrowest opening: five of its largest balls across a slot, and, as the other school has it, eight across a circle.
 * @param narrowest widths, µm; null where there is no circle
 */
export function judgePowder(type: PowderType, narrowest: { slotUm: number; circleUm: number | null }): Verdict {
	const needsUm = narrowestUm(type, 'slot');
	const needsCircleUm = narrowestUm(type, 'circle', 'eight');
	const because = [
		{
			quantity: 'Narrowest opening',
			value: narrowest.slotUm,
			unit: 'µm',
			limit: `at least ${needsUm}, five of the largest balls of ${type}`,
			source: 'common practice; powder sizes of J-STD-005 (values from memory)'
		}
	];
	if (below(narrowest.slotUm, needsUm)) {
		const finer = suggestPowder(narrowest.slotUm);
		return {
			level: 'act',
			statement: `Powder ${type} is too coarse for ${narrowest.slotUm.toFixed(0)} µm: five balls need ${needsUm} µm.`,
			because,
			doNext: [finer ? `Take a paste with ${finer}` : 'Widen that opening: no powder is fine enough']
		};
	}
	if (narrowest.circleUm !== null && below(narrowest.circleUm, needsCircleUm))
		return {
			level: 'good',
			statement: `Powder ${type} goes through ${narrowest.slotUm.toFixed(0)} µm; those who ask for eight balls across a circle would take a finer one.`,
			because,
			doNext: []
		};
	return { level: 'good', statement: `Powder ${type} goes through the narrowest opening.`, because, doNext: [] };
}

export interface PasteDensity {
	/** Density of the paste, g/cm³. */
	pasteGPerCm3: number;
	/** Share of the volume that is metal: what is left after reflow. */
	metalShare: number;
}

/** Density and metal share from the share of metal by mass: φ = (w/ρm)/(w/ρm+(1−w)/ρf), ρ = 1/(w/ρm+(1−w)/ρf).
 * @param metalMassShare w, 0.5 to 0.98; @param metalGPerCm3 7.4 for tin-silver-copper; @param fluxGPerCm3 about 1.0
 * @example pasteDensity() // => { pasteGPerCm3: 4.2627, metalShare: 0.5098 }
 */
export function pasteDensity(metalMassShare = 0.885, metalGPerCm3 = 7.4, fluxGPerCm3 = 1): PasteDensity {
	requireRange('metalMassShare', metalMassShare, 0.5, 0.98);
	const metal = metalMassShare / metalGPerCm3;
	const flux = (1 - metalMassShare) / fluxGPerCm3;
	return { pasteGPerCm3: 1 / (metal + flux), metalShare: metal / (metal + flux) };
}
