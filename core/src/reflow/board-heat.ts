import type { BoardPart } from '../artwork/index.ts';
import { requireRange } from '../judgement/index.ts';
import { median } from '../numerics/index.ts';
import { readPackage, type PackageReader } from '../parts/index.ts';
import { groupBorders, type Oven, type TimeConstants } from './oven.ts';

export interface BoardBuild {
	thicknessMm: number;
	copperLayers: number;
	/** Share of each layer that is copper, 0 to 1. */
	copperShare: number;
}

export interface Spot {
	name: 'light' | 'typical' | 'heavy';
	/** The part there, or "bare edge". */
	at: string;
	/** Heat capacity of a square metre, J/m²K. */
	arealHeat: number;
	/** In the reflow zones, s. */
	tauS: number;
	tau: TimeConstants;
}

// FR-4 1900 kg/m³ and 1150 J/kgK, copper 8960 and 385: common practice. A full 35 µm plane adds 121 J/m²K.
const LAMINATE_J_PER_M3K = 1900 * 1150;
const COPPER_PLANE_J_PER_M2K = 8960 * 385 * 35e-6;
const PART_J_PER_GK = 0.7;
/** Both sides together, W/m²K, radiation included, in the reflow zones (common practice 45 to 60 a side). */
const H_BOTH_SIDES = 110;
/** A leading corner warms faster than the middle (our model, editable later by measurement). */
const EDGE = 0.8;
/** Copper planes carry heat sideways over about 30 mm in the minutes of a profile: √(9e-6 m²/s · 100 s). */
const WINDOW_MM = 30;
/** Slower in the cooler, gentler air of preheat (1.5 to 2 times there): h by group as a share of the reflow zones'. */
const GROUP = { preheat: 1.6, soak: 1.25, reflow: 1, cooling: 1.1 };

/** Areal heat of the bare board, J/m²K.
 * @throws {InputError} `out-of-range`
 * @example bareBoardHeat({ thicknessMm: 1.6, copperLayers: 0, copperShare: 0 }) // => 3496
 */
export function bareBoardHeat({ thicknessMm, copperLayers, copperShare }: BoardBuild): number {
	requireRange('board.thicknessMm', thicknessMm, 0.2, 6, 'mm');
	requireRange('board.copperLayers', copperLayers, 0, 40);
	requireRange('board.copperShare', copperShare, 0, 1);
	return (LAMINATE_J_PER_M3K * thicknessMm) / 1000 + COPPER_PLANE_J_PER_M2K * copperLayers * copperShare;
}

/** A light, a typical and a heavy spot of a board, with time constants from its thickness, copper and parts.
 * The heat of the parts is averaged over a window of 30 mm round each part. A guess until one profile is measured: ±8 °C, ±14 s.
 */
export function boardSpots(build: BoardBuild, parts: readonly BoardPart[], oven: Oven, read: PackageReader = readPackage): Spot[] {
	const bare = bareBoardHeat(build);
	const fitted = parts.filter((part) => part.fitted).map((part) => ({ part, massG: read(part.packageName).massG ?? 0.02 }));
	const local = fitted.map(({ part }) => {
		let massG = 0;
		for (const other of fitted)
			if (Math.abs(other.part.xMm - part.xMm) <= WINDOW_MM / 2 && Math.abs(other.part.yMm - part.yMm) <= WINDOW_MM / 2)
				massG += other.massG;
		return { refDes: part.refDes, heat: (massG * PART_J_PER_GK) / (WINDOW_MM / 1000) ** 2 };
	});
	const sorted = [...local].sort((a, b) => a.heat - b.heat);
	const middle = sorted.length ? median(sorted.map((entry) => entry.heat)) : 0;
	const typical = sorted.find((entry) => entry.heat >= middle);
	// The heaviest part inside the heaviest window is what a thermocouple would be fixed to.
	const peak = sorted.at(-1);
	const heaviest = peak && heaviestNear(peak.refDes, fitted);
	const lightest = sorted[0];
	return [
		spot('light', lightest ? `${lightest.refDes}, leading edge` : 'bare edge', EDGE * (bare + (lightest?.heat ?? 0)), oven),
		spot('typical', typical?.refDes ?? 'middle', bare + middle, oven),
		spot('heavy', heaviest ?? 'middle', bare + (peak?.heat ?? 0), oven)
	];
}

function heaviestNear(refDes: string, fitted: readonly { part: BoardPart; massG: number }[]): string {
	const centre = fitted.find(({ part }) => part.refDes === refDes)!.part;
	const near = fitted.filter(
		({ part }) => Math.abs(part.xMm - centre.xMm) <= WINDOW_MM / 2 && Math.abs(part.yMm - centre.yMm) <= WINDOW_MM / 2
	);
	return near.sort((a, b) => b.massG - a.massG)[0]!.part.refDes;
}

function spot(name: Spot['name'], at: string, arealHeat: number, oven: Oven): Spot {
	const tauS = arealHeat / H_BOTH_SIDES;
	const { preheatM, soakM, reflowM } = groupBorders(oven);
	return {
		name,
		at,
		arealHeat,
		tauS,
		tau: [
			{ untilM: preheatM, tauS: tauS * GROUP.preheat },
			{ untilM: soakM, tauS: tauS * GROUP.soak },
			{ untilM: reflowM, tauS: tauS * GROUP.reflow },
			{ untilM: Infinity, tauS: tauS * GROUP.cooling }
		]
	};
}
