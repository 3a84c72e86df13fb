import type { PackageKind } from '../parts/index.ts';
import { frameDeg, type OffsetCause, type OffsetLevel, type PlacedOffset } from './offset-causes.ts';
import { ERRORS, LEAST_PANELS, LEAST_UM, offsetTrim, placementsToSee } from './trims.ts';

/** What a correction of the program can mend; a circuit, a panel that sits wrong, or a nozzle is looked at instead. */
export const TRIM_LEVELS = ['program', 'feeder', 'part', 'ref'] as const satisfies OffsetLevel[];
export type TrimLevel = (typeof TRIM_LEVELS)[number];

/** A correction that a machine adds to where it places, in the frame of its level, µm. */
export interface Trim {
	level: TrimLevel;
	name: string;
	dxUm: number;
	dyUm: number;
}

type Row = Pick<PlacedOffset, 'refDes' | 'partNumber' | 'feeder' | 'angleDeg' | 'circuitDeg'>;

/** Whether a trim is about a placement. */
export function isOf({ level, name }: Pick<Trim, 'level' | 'name'>, row: Row): boolean {
	if (level === 'program') return true;
	return (level === 'feeder' ? row.feeder : level === 'part' ? row.partNumber : row.refDes) === name;
}

/** What all trims together add to a placement, along the panel, µm.
 * @example correctionUm([{ level: 'part', name: 'P7', dxUm: 50, dyUm: 0 }], { refDes: 'U1', partNumber: 'P7', feeder: null, angleDeg: 90, circuitDeg: 0 }) // => { dxUm: 0, dyUm: 50 }
 */
export function correctionUm(trims: readonly Trim[], row: Row): { dxUm: number; dyUm: number } {
	let [dxUm, dyUm] = [0, 0];
	for (const trim of trims) {
		if (!isOf(trim, row)) continue;
		const [c, s] = unit(frameDeg(trim.level, row));
		dxUm += c * trim.dxUm - s * trim.dyUm;
		dyUm += s * trim.dxUm + c * trim.dyUm;
	}
	return { dxUm, dyUm };
}

/** Cosine and sine, exact at right angles. */
function unit(deg: number): [number, number] {
	const quarter = deg / 90;
	if (Number.isInteger(quarter))
		return (
			[
				[1, 0],
				[0, 1],
				[-1, 0],
				[0, -1]
			] as [number, number][]
		)[((quarter % 4) + 4) % 4]!;
	const rad = (deg * Math.PI) / 180;
	return [Math.cos(rad), Math.sin(rad)];
}

/** Whether solder pulls parts of this kind to their pads: an offset of theirs is gone after the oven, whatever the placer did (common practice: chips and ball grids do, leaded parts and connectors hardly). */
export const pulledBySolder = (kind: PackageKind): boolean => kind === 'chip' || kind === 'ballGrid';

/** The trim that a cause asks for, in whole µm; null where none is to be made, or none yet. */
export function trimFor({ level, name, trim, tied }: OffsetCause): Trim | null {
	if (!trim || tied.length > 0 || !(TRIM_LEVELS as readonly string[]).includes(level)) return null;
	const [dxUm, dyUm] = [Math.round(trim.x.correctionUm) + 0, Math.round(trim.y.correctionUm) + 0];
	return dxUm === 0 && dyUm === 0 ? null : { level: level as TrimLevel, name, dxUm, dyUm };
}

/** What became of an offset since it was trimmed. */
export interface TrimEffect {
	/** waits: too few placements yet. gone: too small to be worth another, or within chance. left: still there. */
	state: 'waits' | 'gone' | 'left';
	rows: number;
	/** Of that many, until it can be said. */
	needed: number;
	/** Median since, in the frame of the trim, µm. */
	dxUm: number;
	dyUm: number;
}

/** Whether an offset went away, from placements that are younger than the trim.
 * @param rows all of them; those that the trim is about are taken
 */
export function trimEffect(trim: Trim, rows: readonly PlacedOffset[]): TrimEffect {
	const own = rows.filter((row) => isOf(trim, row));
	if (own.length === 0) return { state: 'waits', rows: 0, needed: 1, dxUm: 0, dyUm: 0 };
	const panels = new Set(own.map((row) => row.panel)).size;
	const turned = own.map((row) => ({ row, turn: unit(frameDeg(trim.level, row)) }));
	const x = offsetTrim(
		turned.map(({ row, turn: [c, s] }) => c * row.dxUm + s * row.dyUm),
		panels
	);
	const y = offsetTrim(
		turned.map(({ row, turn: [c, s] }) => c * row.dyUm - s * row.dxUm),
		panels
	);
	const needed = placementsToSee(Math.max(x.sigmaUm, y.sigmaUm), LEAST_UM);
	// As the search of causes names it: by its length, not by its axes.
	const offUm = Math.hypot(x.medianUm, y.medianUm);
	const sure = offUm > ERRORS * Math.max(x.standardErrorUm, y.standardErrorUm);
	const state = panels < LEAST_PANELS || own.length < needed ? 'waits' : offUm > LEAST_UM && sure ? 'left' : 'gone';
	return { state, rows: own.length, needed, dxUm: x.medianUm, dyUm: y.medianUm };
}
