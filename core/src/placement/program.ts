import type { Point } from '../geometry/index.ts';
import { fewestCycles, gantryCycle, pickStrokes, type GantryCycle, type TimeSplit } from './cycle-time.ts';
import { carrying, type Nozzle, type PlacerSpec } from './machine.ts';

/** One placement on the panel. */
export interface Placement {
	refDes: string;
	circuit: number;
	feeder: string;
	/** On the panel, mm. */
	at: Point;
	rotationDeg: number;
	nozzle: Nozzle;
	heightMm: number;
	/** How fast it may be moved sideways on its tip, mm/s²; null or left out: as fast as the machine moves. */
	holdMmS2?: number | null;
	/** Pitch below 0.5 mm: placed last. */
	fine?: boolean;
}

/** What the head takes at once: what each spindle holds, and the spindles in the order in which they place. */
export interface HeadCycle {
	held: (Placement | null)[];
	order: number[];
}

/** Work of one machine: tips that stay on their spindles for the whole panel, and cycles in order. */
export interface HeadProgram {
	nozzles: Nozzle[];
	cycles: HeadCycle[];
}

export interface ProgramTime {
	/** Seconds a panel, by kind; `fiducialS` and `transferS` are paid once a panel. */
	split: TimeSplit & { fiducialS: number; transferS: number };
	totalS: number;
}

/** What a machine's time depends on beside its placements. */
export interface Bench {
	/** Pick position of each feeder, in slots. */
	pickSlot: Readonly<Record<string, number>>;
	panel: { widthMm: number; fiducials: number };
}

/** Distance of the panel's edge behind the pick line, mm: a property of the machine, common practice. */
const PANEL_Y_MM = 120;
const BAND_MM = 15;
const NOZZLES: readonly Nozzle[] = ['small', 'medium', 'large'];

/** Where things stand from the first slot, mm: the panel is centred on the camera, which stands between it and the pick line. */
export function placesOf(machine: Pick<PlacerSpec, 'cameraSlot' | 'slotPitchMm'>, panelWidthMm: number) {
	const cameraX = (machine.cameraSlot - 1) * machine.slotPitchMm;
	return {
		camera: { x: cameraX, y: PANEL_Y_MM / 3 },
		panel: { x: cameraX - panelWidthMm / 2, y: PANEL_Y_MM },
		rest: { x: cameraX, y: PANEL_Y_MM }
	};
}

/** Small parts first, tall and fine ones last (common practice). */
export function placingClass({ heightMm, fine }: Pick<Placement, 'heightMm' | 'fine'>): number {
	return fine || heightMm > 3 ? 2 : heightMm > 1.2 ? 1 : 0;
}

/** Puts placements into cycles: the fewest, with tips that stay on their spindles; small parts go first and tall or fine ones last, the head
 * serpentines over bands of 15 mm, and the places of a cycle are visited nearest first. A construction, not a proven optimum.
 * @param placements all of the panel that this machine does
 * @throws {InputError} `mismatch` where there are more kinds of tip than spindles
 */
export function serpentine(machine: PlacerSpec, placements: readonly Placement[], { pickSlot, panel }: Bench): HeadProgram {
	const queues = NOZZLES.map((nozzle) => placements.filter((p) => p.nozzle === nozzle).sort(lowFirstAlongBands));
	const counts = queues.map((queue) => queue.length);
	const cycleCount = fewestCycles(counts, machine.spindles);
	const tips = tipsFor(counts, machine.spindles);
	const nozzles = tips.flatMap((n, i) => Array<Nozzle>(n).fill(NOZZLES[i]!));
	const { camera, panel: offset } = placesOf(machine, panel.widthMm);
	const cycles = Array.from({ length: cycleCount }, (_, c): HeadCycle => {
		const held: (Placement | null)[] = nozzles.map(() => null);
		queues.forEach((queue, n) => {
			const each = Math.ceil(queue.length / cycleCount);
			// Slots in the order of the spindles let neighbours go down together.
			const taken = queue.slice(c * each, (c + 1) * each).sort((a, b) => pickSlot[a.feeder]! - pickSlot[b.feeder]!);
			taken.forEach((p, i) => (held[nozzles.indexOf(NOZZLES[n]!) + i] = p));
		});
		return { held, order: nearestFirst(held, camera, offset, machine.headPitchMm) };
	});
	return { nozzles, cycles };
}

/** How many spindles carry each kind of tip so that the fewest cycles are needed; what is left over goes where a tip has most to do.
 * @param counts placements by kind of tip; @returns tips by kind, all spindles used
 * @throws {InputError} `mismatch` where there are more kinds of tip than spindles
 * @example tipsFor([90, 20, 6], 8) // => [5, 2, 1]
 */
export function tipsFor(counts: readonly number[], spindles: number): number[] {
	const cycles = Math.max(1, fewestCycles(counts, spindles));
	const tips = counts.map((n) => Math.ceil(n / cycles));
	for (let left = spindles - tips.reduce((sum, n) => sum + n, 0); left > 0; left--) {
		const load = (i: number) => (counts[i] ? counts[i]! / tips[i]! : 0);
		tips[tips.reduce((most, _, i) => (load(i) > load(most) ? i : most), 0)]! += 1;
	}
	return tips;
}

/** A part is not placed after a taller or finer one so near: its tip would touch it, or shift it (distance ours). */
const NEAR_MM = 10;

/** Pairs that stand near each other and differ in class: the first is to be placed before the second.
 * @returns indices into `placements`
 */
export function precedence(placements: readonly Placement[]): [first: number, second: number][] {
	const cell = (v: number) => Math.floor(v / NEAR_MM);
	const grid = new Map<string, number[]>();
	placements.forEach(({ at }, i) => {
		const key = `${cell(at.x)} ${cell(at.y)}`;
		grid.set(key, [...(grid.get(key) ?? []), i]);
	});
	const pairs: [number, number][] = [];
	placements.forEach((low, i) => {
		for (let dx = -1; dx <= 1; dx++)
			for (let dy = -1; dy <= 1; dy++)
				for (const k of grid.get(`${cell(low.at.x) + dx} ${cell(low.at.y) + dy}`) ?? []) {
					const high = placements[k]!;
					if (placingClass(high) <= placingClass(low)) continue;
					if (Math.hypot(high.at.x - low.at.x, high.at.y - low.at.y) <= NEAR_MM) pairs.push([i, k]);
				}
	});
	return pairs;
}

/** Pairs that a program places the wrong way round. */
export function outOfOrder({ cycles }: HeadProgram): [first: Placement, second: Placement][] {
	const placements = cycles.flatMap(({ held, order }) => order.map((spindle) => held[spindle]!));
	return precedence(placements).flatMap(([low, high]) =>
		low > high ? [[placements[low]!, placements[high]!] as [Placement, Placement]] : []
	);
}

/** Times a program with the full gantry model, cycle after cycle.
 * @returns seconds a panel, and those of each cycle
 */
export function timeProgram(machine: PlacerSpec, { cycles }: HeadProgram, bench: Bench): ProgramTime & { cycleS: number[] } {
	const split = { pickS: 0, travelS: 0, cameraS: 0, placeS: 0, fiducialS: 0, transferS: machine.transferS };
	split.fiducialS = bench.panel.fiducials * machine.fiducialS;
	let at = placesOf(machine, bench.panel.widthMm).rest;
	const cycleS = cycles.map((cycle) => {
		const time = gantryCycle(carrying(machine, cycle.held), at, headPath(machine, cycle, bench, at));
		at = time.end;
		split.pickS += time.pickS;
		split.travelS += time.travelS;
		split.cameraS += time.cameraS;
		split.placeS += time.placeS;
		return time.totalS;
	});
	return { split, totalS: Object.values(split).reduce((sum, s) => sum + s, 0), cycleS };
}

/** The way of the head through a cycle: its strokes along the bank, in the direction that is faster from where it stands; the camera; the places. */
export function headPath(machine: PlacerSpec, { held, order }: HeadCycle, { pickSlot, panel }: Bench, from: Point): GantryCycle {
	const { camera, panel: offset } = placesOf(machine, panel.widthMm);
	const moving = carrying(machine, held);
	const strokes = pickStrokes(
		held.map((p) => (p ? pickSlot[p.feeder]! : null)),
		machine.headPitchMm / machine.slotPitchMm
	)
		.map((stroke) => ({ spindle: stroke.spindles[0]!, at: { x: (stroke.slot - 1) * machine.slotPitchMm, y: 0 } }))
		.sort((a, b) => a.at.x - a.spindle * machine.headPitchMm - (b.at.x - b.spindle * machine.headPitchMm));
	const places = order.map((spindle) => {
		const { at } = held[spindle]!;
		return { spindle, at: { x: at.x + offset.x, y: at.y + offset.y } };
	});
	const [there, back] = [
		{ strokes, camera, places },
		{ strokes: [...strokes].reverse(), camera, places }
	];
	return gantryCycle(moving, from, back).totalS < gantryCycle(moving, from, there).totalS ? back : there;
}

function lowFirstAlongBands(a: Placement, b: Placement): number {
	const order = placingClass(a) - placingClass(b);
	if (order !== 0) return order;
	const [bandA, bandB] = [Math.floor(a.at.y / BAND_MM), Math.floor(b.at.y / BAND_MM)];
	if (bandA !== bandB) return bandA - bandB;
	return (bandA % 2 === 0 ? 1 : -1) * (a.at.x - b.at.x) || a.refDes.localeCompare(b.refDes);
}

/** Low parts before tall ones, and of each the nearest first. */
function nearestFirst(held: readonly (Placement | null)[], from: Point, offset: Point, headPitchMm: number): number[] {
	const open = new Set(held.flatMap((p, spindle) => (p ? [spindle] : [])));
	const order: number[] = [];
	let at = from;
	while (open.size) {
		const lowest = Math.min(...[...open].map((spindle) => placingClass(held[spindle]!)));
		let best: { spindle: number; reference: Point; d: number } | null = null;
		for (const spindle of open) {
			const p = held[spindle]!;
			if (placingClass(p) > lowest) continue;
			const reference = { x: p.at.x + offset.x - spindle * headPitchMm, y: p.at.y + offset.y };
			const d = Math.max(Math.abs(reference.x - at.x), Math.abs(reference.y - at.y));
			if (!best || d < best.d) best = { spindle, reference, d };
		}
		open.delete(best!.spindle);
		order.push(best!.spindle);
		at = best!.reference;
	}
	return order;
}
