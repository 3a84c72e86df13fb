import { sql } from 'kysely';
import { db, type Db, type Trx } from '../db/index.ts';

interface Taken {
	runId: number;
	station: string;
	slot: number;
	fromMs: number;
	/** When another reel took its place; null: it feeds still. */
	untilMs: number | null;
	/** Panels placed from it meanwhile (a panel with circuits left out is a part of one), picks lost, pieces a panel. */
	panels: number;
	lost: number;
	perPanel: number;
}

/** What panels have taken of reels since they were counted, load by load: those placed between a load of a slot and the next.
 * @param counted when each was counted last
 */
export async function takenFrom(counted: ReadonlyMap<string, number>, trx: Db | Trx = db): Promise<Map<string, Taken[]>> {
	const codes = [...counted.keys()];
	const instants = [...counted.values()].map((ms) => new Date(ms));
	const { rows } = await sql<Omit<Taken, 'fromMs' | 'untilMs'> & { reel: string; from: Date; until: Date | null }>`
		with load as (
			select f.*, lead(f.loaded_at) over (partition by f.run_id, f.station_id, f.slot order by f.loaded_at) as until
			from feeder_load f where f.run_id in (select run_id from feeder_load where reel = any(${codes})))
		select l.reel, l.run_id as "runId", s.name as station, l.slot, l.loaded_at as from, coalesce(l.until, r.ended_at) as until, used.panels, used.lost,
			coalesce((select (load ->> 'perPanel')::int
				from jsonb_array_elements(p.plan -> 'machines') machine, jsonb_array_elements(machine -> 'loadList') load
				where machine ->> 'machine' = s.name and (load ->> 'slot')::int = l.slot limit 1), 0) as "perPanel"
		from load l join unnest(${codes}::text[], ${instants}::timestamptz[]) counted (reel, at) on counted.reel = l.reel
		join station s on s.id = l.station_id join run r on r.id = l.run_id join placement_program p on p.id = r.placement_program_id
		cross join lateral (
			select coalesce(sum(report.good_share), 0)::float8 as panels, coalesce(sum((report.lost ->> l.slot::text)::int), 0)::int as lost
			from placement_report report where report.station_id = l.station_id and report.placed_at >= greatest(l.loaded_at, counted.at)
				and (l.until is null or report.placed_at < l.until)
				and report.pass_id in (select id from panel_pass where run_id = l.run_id)) used
		order by l.loaded_at`.execute(trx);
	const of = new Map<string, Taken[]>();
	for (const { reel, from, until, ...load } of rows)
		of.set(reel, [...(of.get(reel) ?? []), { ...load, fromMs: from.getTime(), untilMs: until?.getTime() ?? null }]);
	return of;
}
