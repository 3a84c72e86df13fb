import { looksAPanel, onPanel, type PanelGeometry, type BoardPart } from '../artwork/index.ts';
import type { Point } from '../geometry/index.ts';
import { layoutBank, pickPosition } from '../feeders/index.ts';
import { readPackage, slotsForTape, usualSupply, type PackageReader, type PackageRecord, type Supply } from '../parts/index.ts';
import {
	cannotPlace,
	gantryCycle,
	headPath,
	holdOf,
	nozzleFor,
	optimise,
	outOfOrder,
	pickStrokes,
	placesOf,
	programBoundS,
	serpentine,
	timeProgram,
	type HeadProgram,
	type Nozzle,
	type Placement,
	type PlacerSpec,
	type ProgramTime
} from '../placement/index.ts';
import { dealParts, type Deal } from './deal.ts';

export interface LoadLine {
	slot: number;
	slots: number;
	partNumber: string;
	value: string;
	packageName: string;
	supply: Supply;
	/** Pieces a panel. */
	perPanel: number;
	refDes: string[];
}

/** What a spindle takes: designator and circuit, from 0. */
export type PlannedPart = readonly [refDes: string, circuit: number];

/** A cycle as it is kept: what each spindle takes, and the spindles in the order in which they place. */
export interface PlannedCycle {
	held: readonly (PlannedPart | null)[];
	order: readonly number[];
}

export interface MachinePlan {
	machine: string;
	/** In slot order. */
	loadList: LoadLine[];
	placements: number;
	split: ProgramTime['split'];
	totalS: number;
	/** The way of its head; what was released before ways were kept has none. */
	head?: { nozzles: readonly Nozzle[]; cycles: readonly PlannedCycle[]; boundS: number };
}

/** What the nozzle of a spindle is called; spindles count from 0. */
export const nozzleName = (spindle: number): string => `N${spindle + 1}`;

/** What the nozzles of a machine are called: N1 on its first spindle. */
export const nozzleNames = (spindles: number): string[] => Array.from({ length: spindles }, (_, spindle) => nozzleName(spindle));

/** The nozzles with which a machine places by its plan; null where the way of its head was not kept. */
export function usedNozzles({ head }: Pick<MachinePlan, 'head'>): Set<string> | null {
	if (!head) return null;
	return new Set(head.cycles.flatMap(({ held }) => held.flatMap((part, spindle) => (part ? [nozzleName(spindle)] : []))));
}

/** One stage of the line and the seconds it takes for a panel. */
export interface Stage {
	name: string;
	secondsPerPanel: number;
}

export interface LinePlan {
	machines: MachinePlan[];
	/** Parts that no machine of this line can place, each with its reasons. */
	byHand: { partNumber: string; refDes: string[]; reasons: string[] }[];
	/** How far the deal is over a bound that no deal of whole part types can beat, at these seconds a placement, %: 0 where the search ended;
	 * null where somebody else dealt them.
	 */
	dealGapPct: number | null;
}

export interface PartType {
	partNumber: string;
	parts: BoardPart[];
	body: PackageRecord;
	supply: Supply;
}

/** What a line has to place of a panel. */
export interface LineWork {
	machines: readonly PlacerSpec[];
	panel: PanelGeometry;
	/** Those that a machine of the line can place, by part number. */
	types: ReadonlyMap<string, PartType>;
	/** All placements of those types. */
	placements: readonly Placement[];
	byHand: LinePlan['byHand'];
}

/** Why a machine cannot place a part type; empty where it can. */
export const whyNot = (machine: PlacerSpec, { body, supply }: PartType): string[] => cannotPlace(machine, body, supply.kind === 'tray');

/** @param parts of one circuit as the machine sees the side; only fitted ones count
 * @param panel of that side
 */
export function lineWork(
	parts: readonly BoardPart[],
	panel: PanelGeometry,
	machines: readonly PlacerSpec[],
	read: PackageReader = readPackage
): LineWork {
	const byHand: LinePlan['byHand'] = [];
	const all = groupTypes(
		parts.filter((part) => part.fitted),
		read
	);
	const types = all.filter((type) => {
		const reasons = machines.map((machine) => ({ machine, why: whyNot(machine, type) }));
		if (reasons.some(({ why }) => why.length === 0)) return true;
		byHand.push({
			partNumber: type.partNumber,
			refDes: type.parts.map((part) => part.refDes),
			reasons: reasons.map(({ machine, why }) => `${machine.name}: ${why.join('; ')}`)
		});
		return false;
	});
	return {
		machines,
		panel,
		types: new Map(types.map((type) => [type.partNumber, type])),
		placements: types.flatMap((type) => placementsOf(type, panel)),
		byHand
	};
}

/** Deals the parts of a side to the placers of a line, gives every feeder a slot, and times each machine with the serpentine that it starts from.
 * The deal works with seconds a placement; these are taken from the full model and the deal is repeated until it settles.
 * @param slowerPct how much slower than each later machine the first is to be, so that panels do not queue; 0: all equal
 */
export function planLine(
	parts: readonly BoardPart[],
	panel: PanelGeometry,
	machines: readonly PlacerSpec[],
	read: PackageReader = readPackage,
	slowerPct = 0
): LinePlan {
	const work = lineWork(parts, panel, machines, read);
	const types = [...work.types.values()];
	// A later machine counts as that much busier than it is.
	const weight = (m: number) => (m === 0 ? 1 : 1 + slowerPct / 100);
	let each = machines.map((m) => m.placeS + m.pickS / 2 + 0.12 + m.cameraS / m.spindles);
	let best: { plans: MachinePlan[]; deal: Deal } | null = null;
	for (let round = 0; round < 4; round++) {
		const deal = dealParts(
			types.map((type) => ({
				id: type.partNumber,
				count: type.parts.length * panel.origins.length,
				slots: machines.map((m) => slotsForTape(type.supply.widthMm, m.slotPitchMm)),
				secondsEach: machines.map((m, i) => (whyNot(m, type).length ? null : each[i]! * weight(i)))
			})),
			machines.map((m, i) => ({ slots: m.slots, fixedS: (m.transferS + looksAPanel(panel) * m.fiducialS) * weight(i) }))
		);
		const plans = machines.map((machine, m) =>
			serpentinePlan(
				work,
				machine,
				work.placements.filter((p) => deal.machineOf[p.feeder] === m)
			)
		);
		const worst = (list: readonly MachinePlan[]) => Math.max(...list.map((plan, m) => plan.totalS * weight(m)));
		if (!best || deal.left.length < best.deal.left.length || worst(plans) < worst(best.plans) - 1e-9) best = { plans, deal };
		each = machines.map((_, m) => {
			const plan = plans[m]!;
			const fixed = plan.split.fiducialS + plan.split.transferS;
			return plan.placements > 0 ? (plan.totalS - fixed) / plan.placements : each[m]!;
		});
	}
	const left = best!.deal.left.map(({ id, reason }) => ({
		partNumber: id,
		refDes: work.types.get(id)!.parts.map((part) => part.refDes),
		reasons: [reason]
	}));
	return {
		machines: best!.plans.map((plan, m) => inOrder(work, machines[m]!, plan)),
		byHand: [...work.byHand, ...left],
		dealGapPct: gapPct(best!.deal)
	};
}

/** A search that ended proves its deal; else the bound of evenly spread work is what is known. */
function gapPct({ proven, worstS, boundS }: Deal): number {
	return proven ? 0 : Math.max(0, 100 * (worstS / boundS - 1));
}

function groupTypes(parts: readonly BoardPart[], read: PackageReader): PartType[] {
	const types = new Map<string, PartType>();
	for (const part of parts) {
		const partNumber = part.partNumber || `${part.value} ${part.packageName}`.trim() || part.refDes;
		const type = types.get(partNumber);
		if (type) type.parts.push(part);
		else {
			const body = read(part.packageName);
			types.set(partNumber, { partNumber, parts: [part], body, supply: usualSupply(body) });
		}
	}
	return [...types.values()];
}

function placementsOf({ partNumber, parts, body }: PartType, panel: PanelGeometry): Placement[] {
	return parts.flatMap((part) =>
		panel.origins.map((origin, circuit): Placement => ({
			refDes: part.refDes,
			circuit,
			feeder: partNumber,
			at: onPanel({ x: part.xMm, y: part.yMm }, origin),
			rotationDeg: (part.rotationDeg + origin.rotationDeg) % 360,
			nozzle: nozzleFor(body),
			heightMm: body.heightMm ?? 2,
			holdMmS2: holdOf(body),
			fine: body.kind !== 'chip' && body.pitchMm !== null && body.pitchMm < 0.5
		}))
	);
}

/** Slots that each part's feeder takes on a machine. */
export const slotsOn = ({ types }: LineWork, machine: PlacerSpec, partNumber: string): number =>
	slotsForTape(types.get(partNumber)!.supply.widthMm, machine.slotPitchMm);

function byFeeder(placements: readonly Placement[]): Map<string, Placement[]> {
	const groups = new Map<string, Placement[]>();
	for (const p of placements) {
		const own = groups.get(p.feeder);
		if (own) own.push(p);
		else groups.set(p.feeder, [p]);
	}
	return groups;
}

/** Gives the feeders of some placements their slots, the busiest near the camera, and builds the serpentine. */
export function serpentinePlan(work: LineWork, machine: PlacerSpec, placements: readonly Placement[]): MachinePlan {
	const needs = [...byFeeder(placements)].map(([id, own]) => ({
		id,
		picks: own.length,
		slots: slotsOn(work, machine, id)
	}));
	const { firstSlot } = layoutBank(needs, { slots: machine.slots, pitchMm: machine.slotPitchMm, cameraSlot: machine.cameraSlot });
	const bench = benchOf(work, machine, firstSlot);
	return machinePlan(work, machine, firstSlot, serpentine(machine, placements, bench));
}

/** Tries that put near parts in their order: many more than such pairs. */
const ORDERING_TRIES = 4000;

/** The same with no part after a taller or finer one beside it, where that can be found; a search that small makes it faster too. */
export function inOrder(work: LineWork, machine: PlacerSpec, plan: MachinePlan): MachinePlan {
	const program = headProgram(work, plan);
	if (!program || outOfOrder(program).length === 0) return plan;
	const firstSlot = Object.fromEntries(plan.loadList.map(({ partNumber, slot }) => [partNumber, slot]));
	const placements = program.cycles.flatMap(({ held }) => held.filter((p) => p !== null));
	const found = optimise(machine, placements, benchOf(work, machine, firstSlot), { tries: ORDERING_TRIES, start: program });
	return machinePlan(work, machine, firstSlot, found.program);
}

/** What a machine's time depends on, from the first slot of each feeder. */
export function benchOf(work: LineWork, machine: PlacerSpec, firstSlot: Readonly<Record<string, number>>) {
	const pickSlot = Object.fromEntries(Object.entries(firstSlot).map(([id, slot]) => [id, pickPosition(slot, slotsOn(work, machine, id))]));
	const own = new Set(Object.keys(firstSlot).flatMap((id) => work.types.get(id)?.parts.map((part) => part.refDes) ?? []));
	return { pickSlot, panel: { widthMm: work.panel.widthMm, fiducials: looksAPanel(work.panel, (refDes) => own.has(refDes)) } };
}

/** A machine's program as it is kept, loaded, timed and judged. */
export function machinePlan(
	work: LineWork,
	machine: PlacerSpec,
	firstSlot: Readonly<Record<string, number>>,
	program: HeadProgram
): MachinePlan {
	const bench = benchOf(work, machine, firstSlot);
	const placements = program.cycles.flatMap(({ held, order }) => order.map((spindle) => held[spindle]!));
	const { split, totalS } = timeProgram(machine, program, bench);
	const loadList = [...byFeeder(placements)]
		.map(([partNumber, own]): LoadLine => {
			const { parts, supply } = work.types.get(partNumber)!;
			const here = new Set(own.map((p) => p.refDes));
			return {
				slot: firstSlot[partNumber]!,
				slots: slotsOn(work, machine, partNumber),
				partNumber,
				value: parts[0]!.value,
				packageName: parts[0]!.packageName,
				supply,
				perPanel: own.length,
				refDes: parts.flatMap((part) => (here.has(part.refDes) ? [part.refDes] : []))
			};
		})
		.sort((a, b) => a.slot - b.slot);
	return {
		machine: machine.name,
		loadList,
		placements: placements.length,
		split,
		totalS,
		head: {
			nozzles: program.nozzles,
			cycles: program.cycles.map(({ held, order }) => ({ held: held.map((p) => p && [p.refDes, p.circuit]), order })),
			boundS: programBoundS(machine, placements, bench)
		}
	};
}

/** The head's program of a kept plan; null where its way was not kept or is not of these parts any more. */
export function headProgram({ placements }: Pick<LineWork, 'placements'>, plan: MachinePlan): HeadProgram | null {
	if (!plan.head) return null;
	const byName = new Map(placements.map((p) => [`${p.refDes}.${p.circuit}`, p]));
	let whole = true;
	const cycles = plan.head.cycles.map(({ held, order }) => ({
		held: held.map((part) => {
			const found = part && byName.get(`${part[0]}.${part[1]}`);
			if (part && !found) whole = false;
			return found ?? null;
		}),
		order: [...order]
	}));
	return whole ? { nozzles: [...plan.head.nozzles], cycles } : null;
}

/** Seconds a panel at the oven: (panel + gap)/belt speed, not the minutes inside.
 * @example ovenHeadwayS(300, 60, 75) // => 28.8
 */
export function ovenHeadwayS(panelLengthMm: number, gapMm: number, beltCmPerMin: number): number {
	return ((panelLengthMm + gapMm) * 60) / (beltCmPerMin * 10);
}

/** Hours that so many panels take at the pace of the slowest placer. */
export const placingHours = ({ machines }: Pick<LinePlan, 'machines'>, panels: number): number =>
	(Math.max(0, panels) * Math.max(0, ...machines.map((m) => m.totalS))) / 3600;

/** Where a head goes in one cycle, mm from the first slot along the bank. */
export interface CycleWay {
	seconds: number;
	strokes: { spindles: number[]; slot: number; at: Point }[];
	/** Null where the camera looks while the head passes. */
	camera: Point | null;
	places: { spindle: number; at: Point; refDes: string; circuit: number; partNumber: string }[];
}

/** The way of a machine's head, cycle after cycle; empty where it was not kept. */
export function headWays(work: LineWork, machine: PlacerSpec, plan: MachinePlan): CycleWay[] {
	const program = headProgram(work, plan);
	if (!program) return [];
	const bench = benchOf(work, machine, Object.fromEntries(plan.loadList.map(({ partNumber, slot }) => [partNumber, slot])));
	const { cycleS } = timeProgram(machine, program, bench);
	let at = placesOf(machine, work.panel.widthMm).rest;
	return program.cycles.map((cycle, c) => {
		const path = headPath(machine, cycle, bench, at);
		const together = pickStrokes(
			cycle.held.map((p) => (p ? bench.pickSlot[p.feeder]! : null)),
			machine.headPitchMm / machine.slotPitchMm
		);
		at = gantryCycle(machine, at, path).end;
		return {
			seconds: cycleS[c]!,
			strokes: path.strokes.map((stroke) => ({
				spindles: together.find(({ spindles }) => spindles[0] === stroke.spindle)!.spindles,
				slot: stroke.at.x / machine.slotPitchMm + 1,
				at: stroke.at
			})),
			camera: machine.onTheFly ? null : path.camera,
			places: path.places.map(({ spindle, at: place }) => {
				const { refDes, circuit, feeder } = cycle.held[spindle]!;
				return { spindle, at: place, refDes, circuit, partNumber: feeder };
			})
		};
	});
}
