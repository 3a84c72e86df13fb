import { InputError } from '../judgement/index.ts';
import type { Point } from '../geometry/index.ts';
import type { Axis, PlacerSpec } from './machine.ts';

/** Time of one move with a trapezoidal speed profile: 2√(d/a) where d < v²/a, else d/v + v/a.
 * @example axisTimeS(100, { vMmS: 1000, aMmS2: 10000 }) // => 0.2
 */
export function axisTimeS(distanceMm: number, axis: Axis): number {
	return axisTimer(axis)(distanceMm);
}

/** `axisTimeS` of one axis, for many distances. */
export function axisTimer({ vMmS, aMmS2 }: Axis): (distanceMm: number) => number {
	if (!(vMmS > 0) || !(aMmS2 > 0)) throw new InputError('out-of-range', 'axis', 'speed and acceleration above 0', { vMmS, aMmS2 });
	const fullSpeedMm = (vMmS * vMmS) / aMmS2;
	return (distanceMm) => {
		const d = Math.abs(distanceMm);
		return d < fullSpeedMm ? 2 * Math.sqrt(d / aMmS2) : d / vMmS + vMmS / aMmS2;
	};
}

/** Both axes move at once: the slower decides. */
export function moveTimeS(from: Point, to: Point, x: Axis, y: Axis): number {
	return Math.max(axisTimeS(to.x - from.x, x), axisTimeS(to.y - from.y, y));
}

/** Fewest cycles C with Σ⌈n_t/C⌉ <= spindles, no nozzle change.
 * @throws {InputError} `mismatch` where there are more nozzle types than spindles
 * @example fewestCycles([90, 20, 6], 8) // => 18
 */
export function fewestCycles(counts: readonly number[], spindles: number): number {
	const used = counts.filter((n) => n > 0);
	if (used.length > spindles) throw new InputError('mismatch', 'spindles', `at least ${used.length}, one for each nozzle`, spindles);
	let cycles = 1;
	while (used.reduce((sum, n) => sum + Math.ceil(n / cycles), 0) > spindles) cycles++;
	return used.length === 0 ? 0 : cycles;
}

/** Strokes that lift all spindles of a cycle: spindles whose (slot − i·r) is equal go down together.
 * @param slots slot picked by spindle i, null where it stays empty
 * @param ratio head pitch / slot pitch; gang picks only where it is a whole number
 */
export function pickStrokes(slots: readonly (number | null)[], ratio: number): { spindles: number[]; slot: number }[] {
	const gang = Math.abs(ratio - Math.round(ratio)) < 1e-6;
	const strokes = new Map<string, { spindles: number[]; slot: number }>();
	slots.forEach((slot, i) => {
		if (slot === null) return;
		const key = gang ? `${(slot - i * Math.round(ratio)).toFixed(2)}` : `single ${i}`;
		const stroke = strokes.get(key);
		if (stroke) stroke.spindles.push(i);
		else strokes.set(key, { spindles: [i], slot });
	});
	return [...strokes.values()];
}

export interface GantryCycle {
	/** Strokes in order: the spindle that is over the point, and the point, mm. */
	strokes: { spindle: number; at: Point }[];
	camera: Point;
	places: { spindle: number; at: Point }[];
}

export interface TimeSplit {
	pickS: number;
	travelS: number;
	cameraS: number;
	placeS: number;
}

/** Time of one cycle from a head reference to the next. Moves are of the reference: point − (spindle · head pitch, 0).
 * @param start reference before the cycle, mm
 * @returns seconds by kind, and the reference where it ends
 */
export function gantryCycle(
	machine: Pick<PlacerSpec, 'headPitchMm' | 'x' | 'y' | 'pickS' | 'placeS' | 'cameraS' | 'onTheFly'>,
	start: Point,
	cycle: GantryCycle
): TimeSplit & { totalS: number; end: Point } {
	const split: TimeSplit = { pickS: 0, travelS: 0, cameraS: 0, placeS: 0 };
	let at = start;
	const go = (spindle: number, point: Point) => {
		const reference = { x: point.x - spindle * machine.headPitchMm, y: point.y };
		split.travelS += moveTimeS(at, reference, machine.x, machine.y);
		at = reference;
	};
	for (const stroke of cycle.strokes) {
		go(stroke.spindle, stroke.at);
		split.pickS += machine.pickS;
	}
	if (!machine.onTheFly) {
		go(0, cycle.camera);
		split.cameraS += machine.cameraS;
	}
	for (const place of cycle.places) {
		go(place.spindle, place.at);
		split.placeS += machine.placeS;
	}
	return { ...split, totalS: split.pickS + split.travelS + split.cameraS + split.placeS, end: at };
}
