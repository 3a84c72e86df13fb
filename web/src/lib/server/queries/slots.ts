import { placingHours, type LinePlan } from '@keen-relay/core/balance';
import { dockFeeder, reelTakenSince, type FeederSetUp, type Quadrant, type SlotNeed, type StandingSlot } from '@keen-relay/core/feeders';
import { machineData } from '$lib/stations/index.ts';
import { db, type Trx } from '../db/index.ts';
import { alternatesFor, type Alternates } from './alternates.ts';
import { orientations, type Orientations } from './orientations.ts';
import { ruleNow } from '../plant/rules.ts';
import { reels, type LoadedReel } from './results.ts';
import { stationsOf } from './stations.ts';
import { reelsNow, type ReelNow } from './reels.ts';

/** What is needed of a placer's slots by a program. How pin 1 lies in the tape is compared where somebody has said it. */
export const needsOf = (plan: LinePlan, machine: string, alternates: Alternates, quadrants: Orientations = new Map()): SlotNeed[] =>
	(plan.machines.find((m) => m.machine === machine)?.loadList ?? []).map(({ slot, partNumber, supply }) => ({
		slot,
		part: partNumber,
		alternates: alternates.get(partNumber) ?? [],
		tapeMm: supply.widthMm,
		pitchMm: supply.pitchMm,
		quadrant: quadrants.get(partNumber) ?? null,
		value: null
	}));

/** Sticks and trays have no tape: their feeder says how wide they stand. */
export const scanned = (reel: ReelNow, feederMm: number): FeederSetUp['reels'][number] => ({
	id: reel.code,
	part: reel.partNumber,
	tapeMm: reel.tapeMm ?? feederMm,
	pieces: reel.pieces,
	blocked: reel.status.gone ? 'it was used up' : reel.status.blocked,
	quadrant: reel.quadrant as Quadrant | null,
	measured: null,
	floorLifeLeftH: reel.status.life?.leftH ?? null
});

/** Hours until a run is over at its slowest placer's pace. */
export const runHours = ({ plan, panels, finished }: Omit<RunOfSlots, 'customer'>): number => placingHours(plan, panels - (finished ?? 0));

export interface SlotState extends StandingSlot {
	stationId: number;
	/** Name of the placer. */
	station: string;
	feeder: string | null;
	reel: string | null;
	pieces: number | null;
	/** The program takes pieces from there; what the job before has left elsewhere harms nobody. */
	needed: boolean;
}

type RunOfSlots = { plan: LinePlan; panels: number; finished: number | null; customer: string };

/** How each slot that a program needs stands at the placers of a line: what was scanned into it, checked again against what is known now.
 * @param loaded what the machines and people have reported for the run
 */
async function slotStates(
	placers: readonly { id: number; name: string; spec: unknown }[],
	run: RunOfSlots,
	loaded: readonly { stationId: number; slot: number; reel: string; loadedAt: Date }[],
	nowMs: number
): Promise<{ slot: SlotState; of: ReelNow | null }[]> {
	if (placers.length === 0) return [];
	const ids = placers.map(({ id }) => id);
	const [docked, { second }, alternates, quadrants] = await Promise.all([
		db.selectFrom('feeder').selectAll().where('stationId', 'in', ids).execute(),
		ruleNow('slotCheck'),
		alternatesFor(run.customer),
		orientations()
	]);
	const held = docked.flatMap((f) => f.reel ?? []);
	const known = held.length ? await reelsNow(nowMs, held) : [];
	return placers.flatMap((station) => {
		const needs = needsOf(run.plan, station.name, alternates, quadrants);
		const here = docked.filter((f) => f.stationId === station.id);
		const setUp: FeederSetUp = {
			// The machine may have been corrected to fewer slots since the program was released: what it then asks for is still scanned.
			slots: Math.max(machineData({ role: 'place', spec: station.spec }, 'place')!.placer.slots, ...needs.map((n) => n.slot)),
			needs,
			feeders: docked.map(({ code, tapeMm, pitchMm, reel, outOfService }) => ({ id: code, tapeMm, pitchMm, reel, outOfService })),
			reels: known.map((reel) => scanned(reel, docked.find((f) => f.reel === reel.code)!.tapeMm)),
			runH: runHours(run)
		};
		const slots = new Set([...needs.map((n) => n.slot), ...here.map((f) => f.slot!)]);
		return [...slots]
			.sort((a, b) => a - b)
			.map((slot) => {
				const feeder = here.find((f) => f.slot === slot) ?? null;
				const load = loaded.find((l) => l.stationId === station.id && l.slot === slot);
				const reported = reelTakenSince(
					feeder && { reel: feeder.reel, dockedMs: feeder.dockedAt!.getTime() },
					load ? { reel: load.reel, loadedMs: load.loadedAt.getTime() } : null
				);
				const of = known.find((reel) => reel.code === feeder?.reel) ?? null;
				return {
					of,
					slot: {
						stationId: station.id,
						station: station.name,
						slot,
						feeder: feeder?.code ?? null,
						reel: feeder?.reel ?? null,
						pieces: of?.pieces ?? null,
						check: feeder && reported === null ? dockFeeder(setUp, slot, feeder.code) : null,
						reported,
						waitsForSecond: second && feeder !== null && feeder.checkedBy === null,
						needed: needs.some((n) => n.slot === slot)
					}
				};
			});
	});
}

const placersOf = async (lineId: number) => (await stationsOf(lineId)).filter((s) => s.role === 'place');

/** The slots of a line as they stand for its run, and the reels that were loaded into them: read once for each look at the run. */
const seen = new WeakMap<object, Promise<{ slots: SlotState[]; loaded: LoadedReel[] }>>();
export function slotsOf(
	run: RunOfSlots & { id: number },
	lineId: number,
	nowMs: number
): Promise<{ slots: SlotState[]; loaded: LoadedReel[] }> {
	const known = seen.get(run);
	if (known) return known;
	const read = (async () => {
		const [placers, loaded] = await Promise.all([placersOf(lineId), reels(run.id)]);
		return { slots: (await slotStates(placers, run, loaded, nowMs)).map(({ slot }) => slot), loaded };
	})();
	seen.set(run, read);
	return read;
}

export type LeftInPlace = Pick<ReelNow, 'partNumber' | 'makerLot' | 'pieces'> & {
	stationId: number;
	slot: number;
	reel: string;
	spliced?: boolean;
};

/** What the job before has left in the slots and is right for a new one too. */
export async function leftInPlace(
	lineId: number,
	{ plan, panels, customer }: Omit<RunOfSlots, 'finished'>,
	nowMs: number
): Promise<LeftInPlace[]> {
	const states = await slotStates(await placersOf(lineId), { plan, panels, customer, finished: 0 }, [], nowMs);
	return states.flatMap(({ slot: { stationId, slot, check, needed }, of }) =>
		check?.ok && needed && of
			? [{ stationId, slot, reel: of.code, partNumber: of.partNumber, makerLot: of.makerLot, pieces: of.pieces }]
			: []
	);
}

/** From here on a run is fed by them. */
export async function feedFrom(trx: Trx, runId: number, loads: readonly LeftInPlace[], nowMs: number): Promise<void> {
	if (loads.length === 0) return;
	const loadedAt = new Date(nowMs);
	await trx
		.insertInto('feederLoad')
		.values(loads.map((load) => ({ runId, ...load, loadedAt })))
		.execute();
}
