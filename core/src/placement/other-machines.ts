import type { Point } from '../geometry/index.ts';
import { InputError, requireRange } from '../judgement/index.ts';
import { axisTimeS, moveTimeS } from './cycle-time.ts';
import type { Axis } from './machine.ts';

/** Two heads that take turns over one place: while one places, the other picks. A head picks again once it has placed; both begin to pick at once.
 * @param cycles seconds of picking and of placing, in the order in which they are placed
 * @returns seconds until the last is placed
 * @example alternatingHeadsS([{ pickS: 1.4, placeS: 1 }, { pickS: 1.4, placeS: 1 }, { pickS: 1.4, placeS: 1 }, { pickS: 1.4, placeS: 1 }]) // => 5.8
 */
export function alternatingHeadsS(cycles: readonly { pickS: number; placeS: number }[]): number {
	const ends: number[] = [];
	cycles.forEach(({ pickS, placeS }, i) => {
		requireRange(`cycles.${i}.pickS`, pickS, 0, 1e4, 's');
		requireRange(`cycles.${i}.placeS`, placeS, 0, 1e4, 's');
		const picked = (ends[i - 2] ?? 0) + pickS;
		ends.push(Math.max(ends[i - 1] ?? 0, picked) + placeS);
	});
	return ends.at(-1) ?? 0;
}

export interface Turret {
	/** Of the table, both ways. */
	table: Axis;
	/** Of the feeder carriage. */
	carriage: Axis;
	slotPitchMm: number;
	/** From one station of the turret to the next, s. */
	indexS: number;
	/** Stations between where a part is picked and where it is placed. */
	stations: number;
}

/** A turret over a moving table, fed from a moving carriage: each step takes the slowest of the three.
 * @param parts place and slot, in the order of placing
 * @example turretS([{ at: { x: 0, y: 0 }, slot: 3 }], { table: { vMmS: 600, aMmS2: 9000 }, carriage: { vMmS: 800, aMmS2: 12000 }, slotPitchMm: 16, indexS: 0.1, stations: 2 }) // => 0.1
 */
export function turretS(parts: readonly { at: Point; slot: number }[], turret: Turret): number {
	requireRange('indexS', turret.indexS, 0.001, 60, 's');
	requireRange('slotPitchMm', turret.slotPitchMm, 1, 100, 'mm');
	if (!(Number.isInteger(turret.stations) && turret.stations >= 1))
		throw new InputError('out-of-range', 'stations', 'a whole number above 0', turret.stations);
	return parts.reduce((sum, part, i) => {
		const table = i === 0 ? 0 : moveTimeS(parts[i - 1]!.at, part.at, turret.table, turret.table);
		const [from, to] = [parts[i + turret.stations - 1], parts[i + turret.stations]];
		const carriage = from && to ? axisTimeS((to.slot - from.slot) * turret.slotPitchMm, turret.carriage) : 0;
		return sum + Math.max(turret.indexS, table, carriage);
	}, 0);
}
