import { sql } from 'kysely';
import type { StationRole } from '$lib/stations/index.ts';
import { db } from '../db/index.ts';

/** The stations of a line that are in use, in the order boards travel. */
export function stationsOf(lineId: number) {
	return db.selectFrom('station').selectAll().where('lineId', '=', lineId).where('outOfUseAt', 'is', null).orderBy('position').execute();
}

/** The same with the machine data that a run was begun with: what was corrected since holds from the next run on. */
export async function stationsAsOf(lineId: number, run: { machines: Record<string, number> } | null) {
	const stations = await stationsOf(lineId);
	const older = stations.filter((s) => (run?.machines[s.id] ?? s.revision) !== s.revision);
	if (!run || older.length === 0) return stations;
	const rows = await db
		.selectFrom('stationRevision')
		.select(['stationId', 'spec'])
		.where(({ eb, or, and }) => or(older.map((s) => and([eb('stationId', '=', s.id), eb('revision', '=', run.machines[s.id]!)]))))
		.execute();
	const specs = new Map(rows.map((row) => [row.stationId, row.spec]));
	return stations.map((s) => (specs.has(s.id) ? { ...s, spec: specs.get(s.id) } : s));
}

/** Stations of a kind whose machine data were corrected after something was made for them, by name. */
export async function correctedSince(lineId: number, role: StationRole, madeAt: Date): Promise<string[]> {
	const rows = await db
		.selectFrom('station')
		.innerJoin('stationRevision', (join) =>
			join.onRef('stationRevision.stationId', '=', 'station.id').onRef('stationRevision.revision', '=', 'station.revision')
		)
		.select('station.name')
		.where('station.lineId', '=', lineId)
		.where('station.role', '=', role)
		.where('station.outOfUseAt', 'is', null)
		.where('stationRevision.revision', '>', 1)
		.where('stationRevision.setAt', '>', madeAt)
		.orderBy('position')
		.execute();
	return rows.map((row) => row.name);
}

/** Revisions of the machine data of a line's stations, as a run that begins now keeps them. */
export async function machinesNow(lineId: number): Promise<Record<string, number>> {
	return Object.fromEntries((await stationsOf(lineId)).map(({ id, revision }) => [id, revision]));
}

/** In a query that joins `station` and `run`: the machine data that the run was begun with. */
export const specOfRun = sql<unknown>`coalesce((select sr.spec from station_revision sr where sr.station_id = station.id
	and sr.revision = (run.machines->>station.id::text)::int), station.spec)`;
