import { onPanel, type PanelGeometry, type BoardPart } from '../artwork/index.ts';
import { layoutBank, pickPosition } from '../feeders/index.ts';
import { readPackage, slotsForTape, usualSupply, type PackageReader, type PackageRecord, type Supply } from '../parts/index.ts';
import { cannotPlace, nozzleFor, programMachine, type MachineProgram, type Placement, type PlacerSpec } from '../placement/index.ts';
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

export interface MachinePlan {
	machine: string;
	/** In slot order. */
	loadList: LoadLine[];
	placements: number;
	split: MachineProgram['split'];
	totalS: number;
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
	/** How far the deal is over a bound that no deal of whole part types can beat, at these seconds a placement, %: 0 where the search ended. */
	dealGapPct: number;
}

interface PartType {
	partNumber: string;
	parts: BoardPart[];
	body: PackageRecord;
	supply: Supply;
}

/** Deals the parts of a side to the placers of a line, gives every feeder a slot, and times each machine.
 * The deal works with seconds a placement; these are taken from the full model and the deal is repeated until it settles.
 * @param parts of one circuit as the machine sees the side; only fitted ones count
 * @param panel of that side
 */
export function planLine(
	parts: readonly BoardPart[],
	panel: PanelGeometry,
	machines: readonly PlacerSpec[],
	read: PackageReader = readPackage
): LinePlan {
	const types = groupTypes(
		parts.filter((part) => part.fitted),
		read
	);
	const byHand: LinePlan['byHand'] = [];
	const placeable = types.filter((type) => {
		const reasons = machines.map((machine) => ({ machine, why: cannotPlace(machine, type.body, type.supply.kind === 'tray') }));
		if (reasons.some(({ why }) => why.length === 0)) return true;
		byHand.push({
			partNumber: type.partNumber,
			refDes: type.parts.map((part) => part.refDes),
			reasons: reasons.map(({ machine, why }) => `${machine.name}: ${why.join('; ')}`)
		});
		return false;
	});
	let each = machines.map((m) => m.placeS + m.pickS / 2 + 0.12 + m.cameraS / m.spindles);
	let best: { plans: MachinePlan[]; deal: Deal } | null = null;
	for (let round = 0; round < 4; round++) {
		const deal = dealParts(
			placeable.map((type) => ({
				id: type.partNumber,
				count: type.parts.length * panel.origins.length,
				slots: machines.map((m) => slotsForTape(type.supply.widthMm, m.slotPitchMm)),
				secondsEach: machines.map((m, i) => (cannotPlace(m, type.body, type.supply.kind === 'tray').length ? null : each[i]!))
			})),
			machines.map((m) => ({ slots: m.slots, fixedS: m.transferS + panel.fiducials.length * m.fiducialS }))
		);
		const plans = machines.map((machine, m) =>
			planMachine(
				machine,
				placeable.filter((type) => deal.machineOf[type.partNumber] === m),
				panel
			)
		);
		const worst = (list: readonly MachinePlan[]) => Math.max(...list.map((plan) => plan.totalS));
		if (!best || deal.left.length < best.deal.left.length || worst(plans) < worst(best.plans) - 1e-9) best = { plans, deal };
		each = machines.map((_, m) => {
			const plan = plans[m]!;
			const fixed = plan.split.fiducialS + plan.split.transferS;
			return plan.placements > 0 ? (plan.totalS - fixed) / plan.placements : each[m]!;
		});
	}
	for (const { id, reason } of best!.deal.left)
		byHand.push({
			partNumber: id,
			refDes: placeable.find((type) => type.partNumber === id)!.parts.map((part) => part.refDes),
			reasons: [reason]
		});
	return { machines: best!.plans, byHand, dealGapPct: gapPct(best!.deal) };
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

function planMachine(machine: PlacerSpec, types: readonly PartType[], panel: PanelGeometry): MachinePlan {
	const circuits = panel.origins.length;
	const needs = types.map((type) => ({
		id: type.partNumber,
		picks: type.parts.length * circuits,
		slots: slotsForTape(type.supply.widthMm, machine.slotPitchMm)
	}));
	const { firstSlot } = layoutBank(needs, { slots: machine.slots, pitchMm: machine.slotPitchMm, cameraSlot: machine.cameraSlot });
	const pickSlot: Record<string, number> = {};
	for (const need of needs) pickSlot[need.id] = pickPosition(firstSlot[need.id]!, need.slots);
	const placements = types.flatMap((type) =>
		type.parts.flatMap((part) =>
			panel.origins.map((origin, circuit): Placement => ({
				refDes: part.refDes,
				circuit,
				feeder: type.partNumber,
				at: onPanel({ x: part.xMm, y: part.yMm }, origin),
				rotationDeg: (part.rotationDeg + origin.rotationDeg) % 360,
				nozzle: nozzleFor(type.body),
				heightMm: type.body.heightMm ?? 2
			}))
		)
	);
	const program = programMachine(machine, placements, pickSlot, {
		widthMm: panel.widthMm,
		fiducials: panel.fiducials.length
	});
	const loadList = types
		.map((type, i): LoadLine => ({
			slot: firstSlot[type.partNumber]!,
			slots: needs[i]!.slots,
			partNumber: type.partNumber,
			value: type.parts[0]!.value,
			packageName: type.parts[0]!.packageName,
			supply: type.supply,
			perPanel: needs[i]!.picks,
			refDes: type.parts.map((part) => part.refDes)
		}))
		.sort((a, b) => a.slot - b.slot);
	return { machine: machine.name, loadList, placements: placements.length, split: program.split, totalS: program.totalS };
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
