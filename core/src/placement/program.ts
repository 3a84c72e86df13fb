import type { Point } from '../geometry/index.ts';
import { fewestCycles, gantryCycle, pickStrokes, type GantryCycle, type TimeSplit } from './cycle-time.ts';
import type { Nozzle, PlacerSpec } from './machine.ts';

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
}

export interface MachineProgram {
	/** Placements in order, cycle by cycle. */
	cycles: Placement[][];
	/** Seconds a panel, by kind; `fiducialS` and `transferS` are paid once a panel. */
	split: TimeSplit & { fiducialS: number; transferS: number };
	totalS: number;
}

/** Distance of the panel's edge behind the pick line, mm: a property of the machine, common practice. */
const PANEL_Y_MM = 120;
const BAND_MM = 15;

/** Puts placements into cycles and times them with the full gantry model.
 * Small parts go first and tall ones last; inside a height class the head serpentines over bands of 15 mm, and the places of a cycle
 * are visited nearest first. A construction, not a proven optimum.
 * @param placements all of the panel that this machine does
 * @param pickSlot pick position of each feeder, in slots
 * @param panel size, mm, and number of fiducials
 */
export function programMachine(
	machine: PlacerSpec,
	placements: readonly Placement[],
	pickSlot: Readonly<Record<string, number>>,
	panel: { widthMm: number; fiducials: number }
): MachineProgram {
	const byNozzle = new Map<Nozzle, Placement[]>();
	for (const nozzle of ['small', 'medium', 'large'] as const) {
		const own = placements.filter((p) => p.nozzle === nozzle);
		if (own.length) byNozzle.set(nozzle, own.sort(comparePlacements));
	}
	const counts = [...byNozzle.values()].map((list) => list.length);
	const cycleCount = fewestCycles(counts, machine.spindles);
	const queues = [...byNozzle.values()].map((list) => ({ list, tips: Math.ceil(list.length / Math.max(1, cycleCount)), next: 0 }));
	const cameraX = (machine.cameraSlot - 1) * machine.slotPitchMm;
	const offset = { x: cameraX - panel.widthMm / 2, y: PANEL_Y_MM };
	const ratio = machine.headPitchMm / machine.slotPitchMm;
	const cycles: Placement[][] = [];
	const split = { pickS: 0, travelS: 0, cameraS: 0, placeS: 0, fiducialS: 0, transferS: 0 };
	let at: Point = { x: cameraX, y: PANEL_Y_MM };
	for (let c = 0; c < cycleCount; c++) {
		const held = queues.flatMap((queue) => {
			const taken = queue.list.slice(queue.next, queue.next + queue.tips);
			queue.next += taken.length;
			// Slots in the order of the spindles let neighbours go down together.
			return taken.sort((a, b) => pickSlot[a.feeder]! - pickSlot[b.feeder]!);
		});
		const slots = held.map((p) => pickSlot[p.feeder]!);
		const strokes = pickStrokes(slots, ratio)
			.sort((a, b) => a.slot - b.slot)
			.map((stroke) => ({ spindle: stroke.spindles[0]!, at: { x: (stroke.slot - 1) * machine.slotPitchMm, y: 0 } }));
		const cycle: GantryCycle = {
			strokes,
			camera: { x: cameraX, y: PANEL_Y_MM / 3 },
			places: nearestFirst(held, { x: cameraX, y: PANEL_Y_MM / 3 }, offset, machine.headPitchMm)
		};
		const time = gantryCycle(machine, at, cycle);
		at = time.end;
		split.pickS += time.pickS;
		split.travelS += time.travelS;
		split.cameraS += time.cameraS;
		split.placeS += time.placeS;
		cycles.push(cycle.places.map((place) => held[place.spindle]!));
	}
	split.fiducialS = panel.fiducials * machine.fiducialS;
	split.transferS = machine.transferS;
	const totalS = Object.values(split).reduce((sum, s) => sum + s, 0);
	return { cycles, split, totalS };
}

function comparePlacements(a: Placement, b: Placement): number {
	const height = heightClass(a.heightMm) - heightClass(b.heightMm);
	if (height !== 0) return height;
	const [bandA, bandB] = [Math.floor(a.at.y / BAND_MM), Math.floor(b.at.y / BAND_MM)];
	if (bandA !== bandB) return bandA - bandB;
	return (bandA % 2 === 0 ? 1 : -1) * (a.at.x - b.at.x) || a.refDes.localeCompare(b.refDes);
}

function heightClass(heightMm: number): number {
	return heightMm <= 1.2 ? 0 : heightMm <= 3 ? 1 : 2;
}

function nearestFirst(held: readonly Placement[], from: Point, offset: Point, headPitchMm: number) {
	const open = new Set(held.keys());
	const places: { spindle: number; at: Point }[] = [];
	let at = from;
	while (open.size) {
		let best: { spindle: number; at: Point; reference: Point; d: number } | null = null;
		for (const spindle of open) {
			const p = held[spindle]!;
			const target = { x: p.at.x + offset.x, y: p.at.y + offset.y };
			const reference = { x: target.x - spindle * headPitchMm, y: target.y };
			const d = Math.max(Math.abs(reference.x - at.x), Math.abs(reference.y - at.y));
			if (!best || d < best.d) best = { spindle, at: target, reference, d };
		}
		open.delete(best!.spindle);
		places.push({ spindle: best!.spindle, at: best!.at });
		at = best!.reference;
	}
	return places;
}
