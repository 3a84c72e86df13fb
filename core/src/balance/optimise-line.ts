import { InputError } from '../judgement/index.ts';
import { optimise, serpentine, type Bank, type Placement, type PlacerSpec } from '../placement/index.ts';
import {
	headProgram,
	machinePlan,
	serpentinePlan,
	slotsOn,
	whyNot,
	benchOf,
	inOrder,
	type LinePlan,
	type LineWork,
	type MachinePlan
} from './line-plan.ts';

export interface LineSearch {
	/** How much slower than each later machine the first is to be, %; 0: all equal. */
	slowerPct?: number;
	/** Changes tried in one step of a machine; else the more, the more it places. */
	tries?: number;
	/** Slots that stay with their parts, by machine. */
	pinned?: Readonly<Record<string, readonly string[]>>;
	/** Steps of the whole line. */
	rounds?: number;
}

export interface LineStep {
	/** The best so far. */
	plan: LinePlan;
	/** Steps done, and how many there are at the most. */
	done: number;
	of: number;
}

/** So many that a step takes about a second, and more does not find much more (measured on the demo's boards). */
const triesFor = (placements: number) => Math.max(60_000, 800 * placements);
/** Seconds that a round may let a change cost at the beginning, the later the less. */
const WARM_S = [0.04, 0.025, 0.016, 0.01, 0.006];
/** A part type that stands in two feeders costs a reel and a trace more: worth it from 1 % of the takt (ours). */
const SPLIT_PAYS = 0.01;

/** Looks for a faster line, step by step: the cycles and slots of each machine by annealing with the full model, then part types or a share of one from the slowest
 * machine to another, which is built anew. Whoever drives it may stop after any step: each tells the best so far, which never gets slower.
 * @param start plan of the same work, kept where nothing better is found
 */
export function* optimiseLine(
	work: LineWork,
	start: LinePlan,
	{ slowerPct = 0, tries, pinned = {}, rounds = WARM_S.length }: LineSearch = {}
): Generator<LineStep, LinePlan, void> {
	const { machines } = work;
	const weighed = (plans: readonly MachinePlan[]) => Math.max(...plans.map((plan, m) => plan.totalS * (m === 0 ? 1 : 1 + slowerPct / 100)));
	let plans = machines.map((machine) => start.machines.find((plan) => plan.machine === machine.name) ?? serpentinePlan(work, machine, []));
	const of = rounds * (machines.length + 1);
	let done = 0;
	const step = (): LineStep => ({ plan: { ...start, machines: plans }, done, of });
	for (let round = 0; round < rounds; round++) {
		const warmS = WARM_S[Math.min(round, WARM_S.length - 1)]!;
		const improved = (plan: MachinePlan, machine: PlacerSpec) =>
			improve(work, machine, plan, {
				tries: tries ?? triesFor(plan.placements),
				warmS,
				seed: round + 1,
				pinned: pinned[machine.name] ?? []
			});
		for (const [m, machine] of machines.entries()) {
			plans = plans.with(m, improved(plans[m]!, machine));
			done++;
			yield step();
		}
		const moved = rebalance(work, plans, weighed, improved);
		if (moved) plans = moved;
		done++;
		yield step();
	}
	return { ...start, machines: plans };
}

interface Improving {
	tries: number;
	warmS: number;
	seed: number;
	pinned: readonly string[];
}

function improve(work: LineWork, machine: PlacerSpec, plan: MachinePlan, { tries, warmS, seed, pinned }: Improving): MachinePlan {
	const program = headProgram(work, plan);
	if (!program || plan.placements === 0) return plan;
	const firstSlot = Object.fromEntries(plan.loadList.map(({ partNumber, slot }) => [partNumber, slot]));
	const taken = new Set(plan.loadList.flatMap(({ slot, slots }) => Array.from({ length: slots }, (_, i) => slot + i)));
	const bank: Bank = {
		slots: Object.fromEntries(plan.loadList.map(({ partNumber, slots }) => [partNumber, slots])),
		free: Array.from({ length: machine.slots }, (_, i) => i + 1).filter((slot) => !taken.has(slot)),
		pinned: new Set(pinned)
	};
	const placements = program.cycles.flatMap(({ held }) => held.filter((p) => p !== null));
	const bench = benchOf(work, machine, firstSlot);
	const found = optimise(machine, placements, bench, { tries, warmS, seed, start: program, bank });
	const slots = Object.fromEntries(
		plan.loadList.map(({ partNumber, slots }) => [partNumber, Math.round(found.pickSlot[partNumber]! - (slots - 1) / 2)])
	);
	const better = machinePlan(work, machine, slots, found.program);
	return better.totalS < plan.totalS - 1e-9 ? better : plan;
}

/** Gives a part type of the slowest machine, or a share of one, to another; null where nothing found is faster. */
function rebalance(
	work: LineWork,
	plans: readonly MachinePlan[],
	weighed: (plans: readonly MachinePlan[]) => number,
	improved: (plan: MachinePlan, machine: PlacerSpec) => MachinePlan
): MachinePlan[] | null {
	const nowS = weighed(plans);
	const slowest = plans.reduce((worst, plan, m) => (weighed(plans.with(m, { ...plan, totalS: 0 })) < nowS - 1e-9 ? m : worst), 0);
	const eachS = plans.map((plan) =>
		plan.placements ? (plan.totalS - plan.split.fiducialS - plan.split.transferS) / plan.placements : 0.3
	);
	const tried = work.machines
		.flatMap((machine, to) =>
			to === slowest
				? []
				: plans[slowest]!.loadList.flatMap(({ partNumber, perPanel }) => {
						const fits =
							whyNot(machine, work.types.get(partNumber)!).length === 0 &&
							(plans[to]!.loadList.some((load) => load.partNumber === partNumber) || freeFor(work, machine, plans[to]!, partNumber));
						if (!fits) return [];
						const even = Math.round((plans[slowest]!.totalS - plans[to]!.totalS) / (eachS[slowest]! + eachS[to]!));
						const shares = even > 0 && even < perPanel ? [perPanel, even] : [perPanel];
						return shares.map((count) => {
							const guess = plans
								.with(slowest, { ...plans[slowest]!, totalS: plans[slowest]!.totalS - count * eachS[slowest]! })
								.with(to, { ...plans[to]!, totalS: plans[to]!.totalS + count * eachS[to]! });
							const whole = count === perPanel;
							return { partNumber, count, to, guessS: weighed(guess) * (whole ? 1 : 1 + SPLIT_PAYS), whole };
						});
					})
		)
		.filter(({ guessS }) => guessS < nowS - 0.02)
		.sort((a, b) => a.guessS - b.guessS)
		.slice(0, 3);
	for (const { partNumber, count, to, whole } of tried) {
		const moved = movePart(work, plans, partNumber, slowest, to, count).map((plan, m) =>
			m === slowest || m === to ? improved(plan, work.machines[m]!) : plan
		);
		if (weighed(moved) < nowS * (whole ? 1 : 1 - SPLIT_PAYS) - 1e-9) return moved;
	}
	return null;
}

/** Moves so many placements of a part from one machine to another; both are built anew from the serpentine, feeders that were there keep their slots.
 * @throws {InputError} `mismatch` where the other machine cannot place it or has no room for its feeder
 */
export function movePart(
	work: LineWork,
	plans: readonly MachinePlan[],
	partNumber: string,
	from: number,
	to: number,
	count = Infinity
): MachinePlan[] {
	const why = whyNot(work.machines[to]!, work.types.get(partNumber)!);
	if (why.length) throw new InputError('mismatch', 'part', `one that ${work.machines[to]!.name} can place: ${why.join('; ')}`, partNumber);
	const own = (plan: MachinePlan) => headProgram(work, plan)?.cycles.flatMap(({ held }) => held.filter((p) => p !== null)) ?? [];
	const [giving, taking] = [own(plans[from]!), own(plans[to]!)];
	const moving = new Set(giving.filter((p) => p.feeder === partNumber).slice(0, count));
	return plans
		.with(
			from,
			rebuilt(
				work,
				work.machines[from]!,
				plans[from]!,
				giving.filter((p) => !moving.has(p))
			)
		)
		.with(to, rebuilt(work, work.machines[to]!, plans[to]!, [...taking, ...moving]));
}

/** Puts a feeder into another slot; one as wide that stands there takes its place. The cycles stay as they are.
 * @throws {InputError} `mismatch` where it does not fit there
 */
export function moveFeeder(work: LineWork, plan: MachinePlan, partNumber: string, slot: number): MachinePlan {
	const machine = work.machines.find((m) => m.name === plan.machine)!;
	const own = plan.loadList.find((load) => load.partNumber === partNumber)!;
	const refuse = (expected: string): never => {
		throw new InputError('mismatch', 'slot', expected, slot);
	};
	if (!Number.isInteger(slot) || slot < 1 || slot + own.slots - 1 > machine.slots) refuse(`1 to ${machine.slots - own.slots + 1}`);
	const inWay = plan.loadList.filter((load) => load !== own && load.slot < slot + own.slots && slot < load.slot + load.slots);
	const [other] = inWay;
	if (other && (inWay.length > 1 || other.slots !== own.slots || other.slot !== slot))
		refuse(`free slots, or a feeder just as wide: ${inWay.map((load) => `${load.partNumber} in ${load.slot}`).join(', ')} stands there`);
	const program = headProgram(work, plan) ?? refuse('a program whose way is known: build it anew first');
	const firstSlot = Object.fromEntries(plan.loadList.map((load) => [load.partNumber, load.slot]));
	if (other) firstSlot[other.partNumber] = own.slot;
	firstSlot[partNumber] = slot;
	return machinePlan(work, machine, firstSlot, program);
}

/** The program of a plan and where its feeders stand, to be changed. */
function opened(work: LineWork, plan: MachinePlan) {
	const machine = work.machines.find((m) => m.name === plan.machine)!;
	const program = headProgram(work, plan);
	if (!program) throw new InputError('mismatch', 'plan', 'a program whose way is known: build it anew first', plan.machine);
	return { machine, program, firstSlot: Object.fromEntries(plan.loadList.map((load) => [load.partNumber, load.slot])) };
}

/** Places one part earlier or later within its cycle: it changes places with the one before or after it.
 * @param cycle number of the cycle; @param nth which one of it is placed, both from 0; @param to the place that it takes
 * @throws {InputError} `out-of-range` where the cycle has no such place
 */
export function reorderCycle(work: LineWork, plan: MachinePlan, cycle: number, nth: number, to: number): MachinePlan {
	const { machine, program, firstSlot } = opened(work, plan);
	const own = program.cycles[cycle];
	if (!own) throw new InputError('out-of-range', 'cycle', `1 to ${program.cycles.length}`, cycle + 1);
	for (const at of [nth, to]) if (!(at in own.order)) throw new InputError('out-of-range', 'place', `1 to ${own.order.length}`, at + 1);
	[own.order[nth], own.order[to]] = [own.order[to]!, own.order[nth]!];
	return machinePlan(work, machine, firstSlot, program);
}

/** Gives one placement to another cycle, onto a spindle with the same tip: a free one, else it changes places with the one that stands there.
 * Both cycles place it last. A cycle that is left empty goes.
 * @param from where it is held; @param to number of the other cycle, all from 0
 * @throws {InputError} `out-of-range` for a cycle or spindle that is none, `mismatch` where it is in that cycle already
 */
export function moveToCycle(work: LineWork, plan: MachinePlan, from: { cycle: number; spindle: number }, to: number): MachinePlan {
	const { machine, program, firstSlot } = opened(work, plan);
	const { nozzles, cycles } = program;
	for (const cycle of [from.cycle, to])
		if (!cycles[cycle]) throw new InputError('out-of-range', 'cycle', `1 to ${cycles.length}`, cycle + 1);
	const [own, other] = [cycles[from.cycle]!, cycles[to]!];
	const placement = own.held[from.spindle];
	if (!placement) throw new InputError('out-of-range', 'spindle', 'one that holds a part in that cycle', from.spindle + 1);
	if (own === other) throw new InputError('mismatch', 'cycle', 'another cycle', to + 1);
	const alike = [...nozzles.keys()].filter((s) => nozzles[s] === nozzles[from.spindle]);
	// Its own spindle where that is free, then any free one, then its own, whose part comes here instead.
	const there = [from.spindle, ...alike].find((s) => other.held[s] === null) ?? from.spindle;
	const back = other.held[there] ?? null;
	own.held[from.spindle] = back;
	own.order = [...own.order.filter((s) => s !== from.spindle), ...(back ? [from.spindle] : [])];
	other.held[there] = placement;
	other.order = [...other.order.filter((s) => s !== there), there];
	return machinePlan(work, machine, firstSlot, { nozzles, cycles: cycles.filter(({ order }) => order.length > 0) });
}

const freeFor = (work: LineWork, machine: PlacerSpec, plan: MachinePlan, partNumber: string): boolean =>
	gapFor(machine, plan.loadList, slotsOn(work, machine, partNumber)) !== null;

/** The first slots beside the camera where so many are free; null where there are none. */
function gapFor(machine: PlacerSpec, loadList: readonly { slot: number; slots: number }[], width: number): number | null {
	const taken = new Set(loadList.flatMap(({ slot, slots }) => Array.from({ length: slots }, (_, i) => slot + i)));
	const starts = Array.from({ length: Math.max(0, machine.slots - width + 1) }, (_, i) => i + 1)
		.filter((slot) => Array.from({ length: width }, (_, i) => slot + i).every((s) => !taken.has(s)))
		.sort((a, b) => Math.abs(a - machine.cameraSlot) - Math.abs(b - machine.cameraSlot));
	return starts[0] ?? null;
}

function rebuilt(work: LineWork, machine: PlacerSpec, plan: MachinePlan, placements: readonly Placement[]): MachinePlan {
	const parts = new Set(placements.map((p) => p.feeder));
	const kept = plan.loadList.filter(({ partNumber }) => parts.has(partNumber));
	const firstSlot = Object.fromEntries(kept.map(({ partNumber, slot }) => [partNumber, slot]));
	for (const partNumber of parts) {
		if (firstSlot[partNumber] !== undefined) continue;
		const width = slotsOn(work, machine, partNumber);
		const slot = gapFor(machine, kept, width);
		// No gap is wide enough: the whole bank is laid out anew.
		if (slot === null) return inOrder(work, machine, serpentinePlan(work, machine, placements));
		firstSlot[partNumber] = slot;
		kept.push({ ...plan.loadList[0]!, partNumber, slot, slots: width });
	}
	return inOrder(work, machine, machinePlan(work, machine, firstSlot, serpentine(machine, placements, benchOf(work, machine, firstSlot))));
}
