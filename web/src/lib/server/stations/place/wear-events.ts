import { sql } from 'kysely';
import { db, type Trx } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import type { Actor } from '../../plant/log.ts';

export type WearEventKind = 'fault' | 'care' | 'out' | 'in';
/** A feeder, or a nozzle of a placer. */
export type WearingThing = { feeder: string } | { stationId: number; nozzle: string };

/** So many of its latest events are shown. */
const LATEST = 20;

/** Writes down what happened to a feeder or nozzle. */
export async function noteWearEvent(trx: Trx, actor: Actor, of: WearingThing, kind: WearEventKind, note: string): Promise<void> {
	await trx
		.insertInto('wearEvent')
		.values({ ...of, kind, note, at: new Date(await plantNow()), byId: actor.id })
		.execute();
}

/** What happened to each feeder, or to each nozzle of a placer, the latest first. */
export async function wearEvents(of: { feeders: readonly string[] } | { stationId: number }) {
	const rows = await db
		.selectFrom('wearEvent')
		.innerJoin('user', 'user.id', 'wearEvent.byId')
		.select(['wearEvent.feeder', 'wearEvent.nozzle', 'wearEvent.kind', 'wearEvent.note', 'wearEvent.at', 'user.name as by'])
		.where((eb) =>
			'stationId' in of
				? eb('wearEvent.stationId', '=', of.stationId)
				: eb('wearEvent.feeder', 'in', of.feeders.length ? [...of.feeders] : [''])
		)
		.where(
			sql<boolean>`(select count(*) from wear_event later where later.feeder is not distinct from wear_event.feeder
				and later.station_id is not distinct from wear_event.station_id and later.nozzle is not distinct from wear_event.nozzle
				and (later.at, later.id) > (wear_event.at, wear_event.id)) < ${LATEST}`
		)
		.orderBy('wearEvent.at', 'desc')
		.orderBy('wearEvent.id', 'desc')
		.execute();
	return rows.map(({ feeder, nozzle, at, ...rest }) => ({ name: feeder ?? nozzle!, atMs: at.getTime(), ...rest }));
}
export type WearEvent = Awaited<ReturnType<typeof wearEvents>>[number];

/** Faults seen since each was last cared for, by name. */
export async function faultsSinceCare(of: { feeders: readonly string[] } | { stationId: number }): Promise<Map<string, number>> {
	const which = 'stationId' in of ? sql`e.station_id = ${of.stationId}` : sql`e.feeder = any(${[...of.feeders]}::text[])`;
	const { rows } = await sql<{ name: string; faults: number }>`
		select coalesce(e.feeder, e.nozzle) as name, count(*)::int as faults from wear_event e
		where ${which} and e.kind = 'fault' and not exists (select 1 from wear_event care where care.kind = 'care'
			and care.feeder is not distinct from e.feeder and care.station_id is not distinct from e.station_id
			and care.nozzle is not distinct from e.nozzle and (care.at, care.id) > (e.at, e.id))
		group by 1`.execute(db);
	return new Map(rows.map(({ name, faults }) => [name, faults]));
}
