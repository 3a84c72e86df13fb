import { onPanel, panelGeometry } from '@keen-relay/core/artwork';
import { nozzleName } from '@keen-relay/core/balance';
import { median } from '@keen-relay/core/numerics';
import {
	judgeOffsets,
	offsetCauses,
	pulledBySolder,
	trimEffect,
	trimFor,
	type OffsetReport,
	type PlacedOffset,
	type Trim,
	type TrimEffect
} from '@keen-relay/core/placement';
import type { Verdict } from '@keen-relay/core/judgement';
import type { StationRole } from '$lib/stations/index.ts';
import { db } from '../../db/index.ts';
import { packageReader } from '../../queries/packages.ts';
import { boardSide } from '../../queries/sides.ts';
import { trimsOf, type KeptTrim } from '../../queries/trims.ts';
import type { CurrentRun } from '../summary.ts';

/** So many panels show an offset of 15 µm of what a nozzle or a slot places; what was mended is soon forgotten. */
const OFFSET_PANELS = 20;
/** The line's strip asks again and again: what came in meanwhile is reckoned with after this time. */
const AFRESH_MS = 5000;

export interface Offsets {
	report: OffsetReport;
	/** Measured after the oven: what solder pulls into place was left out. */
	afterOven: boolean;
	verdict: Verdict;
	/** For each cause the trim that it asks for, or null. */
	asks: (Trim | null)[];
	/** Trims of this side, latest first, with what became of each; null where it is not in use any more. */
	trims: (KeptTrim & { effect: TrimEffect | null })[];
	/** Where the measured panels' parts sit: median of each designator of each circuit, along the panel. */
	spots: { refDes: string; circuit: number; xMm: number; yMm: number; dxUm: number; dyUm: number }[];
	/** What the machine places, by `refDes.circuit`: with which nozzle, from which slot. */
	placed: Record<string, At>;
	/** Panels that were measured since the latest trim count. */
	since: Date | null;
}

interface Placer {
	id: number;
	name: string;
}
interface OnLine extends Placer {
	role: StationRole;
}

const kept = new Map<number, { key: string; visit: number; atMs: number; offsets: Offsets }>();

/** Where a placer puts its parts in the run that is on, what they have in common, and what became of what was trimmed.
 * @param stations of its line, in the order in which panels travel
 */
export async function offsetsOf(station: Placer, stations: readonly OnLine[], run: CurrentRun, nowMs: number): Promise<Offsets> {
	const ids = stations.filter((s) => s.role === 'optical').map((s) => s.id);
	const [trims, cares, newest] = await Promise.all([
		trimsOf(station.id, run.boardSideId, nowMs),
		caresOf(station.id),
		ids.length
			? db
					.selectFrom('inspectionVisit')
					.select(({ fn }) => fn.max('id').as('id'))
					.where('stationId', 'in', ids)
					.executeTakeFirst()
			: null
	]);
	const visit = newest?.id ?? 0;
	const key = JSON.stringify([run.id, trims.map((t) => [t.revision, t.inUse]), [...cares.nozzles], [...cares.slots]]);
	const known = kept.get(station.id);
	if (known?.key === key && (known.visit === visit || Date.now() - known.atMs < AFRESH_MS)) return known.offsets;
	const offsets = await read(station, stations, run, trims, cares);
	kept.set(station.id, { key, visit, atMs: Date.now(), offsets });
	return offsets;
}

/** When nozzles and the feeders in slots were cared for: what they placed before that is of no account. */
async function caresOf(stationId: number): Promise<{ nozzles: Map<string, number>; slots: Map<string, number> }> {
	const [nozzles, feeders] = await Promise.all([
		db.selectFrom('nozzle').select(['name', 'caredAt']).where('stationId', '=', stationId).where('caredAt', 'is not', null).execute(),
		db.selectFrom('feeder').select(['slot', 'caredAt']).where('stationId', '=', stationId).where('caredAt', 'is not', null).execute()
	]);
	return {
		nozzles: new Map(nozzles.map(({ name, caredAt }) => [name, caredAt!.getTime()])),
		slots: new Map(feeders.flatMap(({ slot, caredAt }) => (slot === null ? [] : [[String(slot), caredAt!.getTime()] as const])))
	};
}

async function read(
	station: Placer,
	stations: readonly OnLine[],
	run: CurrentRun,
	trims: readonly KeptTrim[],
	cares: Awaited<ReturnType<typeof caresOf>>
): Promise<Offsets> {
	const oven = stations.findIndex((s) => s.role === 'oven');
	const looks = stations.map((s, i) => ({ ...s, after: oven >= 0 && i > oven })).filter((s) => s.role === 'optical');
	const panels = await db
		.selectFrom('placementReport')
		.innerJoin('panelPass', 'panelPass.id', 'placementReport.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.select(['placementReport.passId', 'placementReport.placedAt', 'panel.serial'])
		.where('placementReport.stationId', '=', station.id)
		.where('panelPass.runId', '=', run.id)
		.where(({ exists, selectFrom }) =>
			exists(
				selectFrom('inspectionVisit')
					.select('inspectionVisit.id')
					.whereRef('inspectionVisit.passId', '=', 'placementReport.passId')
					.where('inspectionVisit.offsets', 'is not', null)
			)
		)
		.orderBy('placementReport.placedAt', 'desc')
		.limit(OFFSET_PANELS)
		.execute();
	const visits = panels.length
		? await db
				.selectFrom('inspectionVisit')
				.distinctOn(['passId', 'stationId', 'circuit'])
				.select(['passId', 'stationId', 'circuit', 'offsets'])
				.where(
					'passId',
					'in',
					panels.map((p) => p.passId)
				)
				.where('offsets', 'is not', null)
				.orderBy('passId')
				.orderBy('stationId')
				.orderBy('circuit')
				.orderBy('attempt', 'desc')
				.execute()
		: [];
	// What was measured before the oven is preferred: solder pulls small parts into place.
	const afterOf = new Map(looks.map((s) => [s.id, s.after]));
	const before = visits.filter((v) => afterOf.get(v.stationId) === false);
	const afterOven = before.length === 0 && visits.length > 0;
	const used = afterOven ? visits.filter((v) => afterOf.get(v.stationId)) : before;

	const placedBy = await placementsOf(station.name, run, afterOven);
	const byPass = new Map(panels.map((p) => [p.passId, p]));
	const all = used.flatMap(({ passId, circuit, offsets }) => {
		const { serial, placedAt } = byPass.get(passId)!;
		return (offsets ?? []).flatMap(([refDes, dxUm, dyUm]) => {
			const at = placedBy.get(`${refDes}.${circuit}`);
			if (!at) return [];
			const placedMs = placedAt.getTime();
			if (placedMs < (cares.nozzles.get(at.nozzle ?? '') ?? -Infinity) || placedMs < (cares.slots.get(at.feeder ?? '') ?? -Infinity))
				return [];
			return [{ placedMs, row: { ...at, panel: serial, dxUm, dyUm } satisfies PlacedOffset }];
		});
	});
	const sinceMs = Math.max(-Infinity, ...trims.map((t) => Math.max(t.at.getTime(), t.undoneAt?.getTime() ?? -Infinity)));
	const rows = all.filter(({ placedMs }) => placedMs >= sinceMs).map(({ row }) => row);
	const report = offsetCauses(rows);
	return {
		report,
		afterOven,
		verdict: judgeOffsets(report, afterOven),
		asks: report.causes.map(trimFor),
		trims: trims.map((trim) => ({
			...trim,
			effect: trim.inUse
				? trimEffect(
						trim,
						all.filter(({ placedMs }) => placedMs >= trim.at.getTime()).map(({ row }) => row)
					)
				: null
		})),
		spots: spotsOf(rows),
		placed: Object.fromEntries(placedBy),
		since: Number.isFinite(sinceMs) ? new Date(sinceMs) : null
	};
}

type At = Omit<PlacedOffset, 'panel' | 'dxUm' | 'dyUm'>;

/** What a machine places in a run, by designator and circuit: from which slot, by which nozzle, which way round. */
async function placementsOf(machine: string, run: CurrentRun, afterOven: boolean): Promise<Map<string, At>> {
	const [side, read] = await Promise.all([boardSide(run.boardSideId), packageReader()]);
	const plan = run.plan.machines.find((m) => m.machine === machine);
	if (!side || !plan) return new Map();
	const slotOf = new Map(plan.loadList.map(({ partNumber, slot }) => [partNumber, String(slot)]));
	const numberOf = new Map(plan.loadList.flatMap(({ partNumber, refDes }) => refDes.map((r) => [r, partNumber] as const)));
	const nozzleOf = new Map<string, string>();
	for (const { held } of plan.head?.cycles ?? [])
		held.forEach((part, spindle) => part && nozzleOf.set(`${part[0]}.${part[1]}`, nozzleName(spindle)));
	const { origins } = panelGeometry(side, side.panel, side.side);
	const places = side.parts
		.filter((part) => numberOf.has(part.refDes) && !(afterOven && pulledBySolder(read(part.packageName).kind)))
		.flatMap((part) =>
			origins.map((origin, circuit): At => {
				const { x, y } = onPanel({ x: part.xMm, y: part.yMm }, origin);
				const partNumber = numberOf.get(part.refDes)!;
				return {
					circuit,
					refDes: part.refDes,
					partNumber,
					feeder: slotOf.get(partNumber) ?? null,
					nozzle: nozzleOf.get(`${part.refDes}.${circuit}`) ?? null,
					angleDeg: (part.rotationDeg + origin.rotationDeg) % 360,
					circuitDeg: origin.rotationDeg,
					xMm: x,
					yMm: y
				};
			})
		)
		// Where the head's way was kept, another machine may place the same part on another circuit.
		.filter(({ refDes, circuit }) => nozzleOf.size === 0 || nozzleOf.has(`${refDes}.${circuit}`));
	return new Map(places.map((at) => [`${at.refDes}.${at.circuit}`, at]));
}

function spotsOf(rows: readonly PlacedOffset[]): Offsets['spots'] {
	const groups = new Map<string, PlacedOffset[]>();
	for (const row of rows) {
		const key = `${row.refDes}.${row.circuit}`;
		const own = groups.get(key);
		if (own) own.push(row);
		else groups.set(key, [row]);
	}
	return [...groups.values()].map((own) => {
		const { refDes, circuit, xMm, yMm } = own[0]!;
		return { refDes, circuit, xMm, yMm, dxUm: median(own.map((r) => r.dxUm)), dyUm: median(own.map((r) => r.dyUm)) };
	});
}
