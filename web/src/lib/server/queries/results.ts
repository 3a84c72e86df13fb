import { sql } from 'kysely';
import { db } from '../db/index.ts';

/** Latest prints of a run, newest first. */
export function prints(runId: number, most: number) {
	return db
		.selectFrom('print')
		.innerJoin('panelPass', 'panelPass.id', 'print.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.select(['panel.serial', 'print.printedAt', 'print.stroke', 'print.printsSinceWipe', 'print.cycleS', 'print.printAttempt'])
		.where('panelPass.runId', '=', runId)
		.orderBy('print.printedAt', 'desc')
		.limit(most)
		.execute();
}

/** Paste summaries of a run in time order: the latest `most` prints, each as it was inspected first. A panel that is measured again is no further print. */
export async function pasteSeries(runId: number, most: number) {
	const rows = await pasteSummaries(runId).orderBy('pasteSummary.measuredAt', 'desc').limit(most).execute();
	return rows.reverse();
}

/** The first `most` of them from an instant on: what a baseline is. */
export function pasteSeriesFrom(runId: number, from: Date | null, most: number) {
	return pasteSummaries(runId)
		.$if(from !== null, (q) => q.where('pasteSummary.measuredAt', '>=', from!))
		.orderBy('pasteSummary.measuredAt')
		.limit(most)
		.execute();
}

function pasteSummaries(runId: number) {
	return (
		db
			.selectFrom('pasteSummary')
			.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
			.innerJoin('panel', 'panel.id', 'panelPass.panelId')
			.leftJoin('print', (join) =>
				join.onRef('print.passId', '=', 'pasteSummary.passId').onRef('print.printAttempt', '=', 'pasteSummary.printAttempt')
			)
			.selectAll('pasteSummary')
			.select(['panel.serial', sql<string>`coalesce(print.stroke, '?')`.as('stroke')])
			// A print that nobody reported has no phase of its own.
			.select(sql<number>`coalesce(print.prints_since_wipe, -1)`.as('printsSinceWipe'))
			.where('panelPass.runId', '=', runId)
			.where('pasteSummary.inspectionAttempt', '=', 1)
	);
}

/** Readings of one panel's inspection, block after block. */
export function panelReadings(sideId: number, of: { passId: number; measuredAt: Date; printAttempt: number; inspectionAttempt: number }) {
	return db
		.selectFrom('pasteReading')
		.select(['block', 'volume', 'height', 'area', 'offsetX', 'offsetY'])
		.where('boardSideId', '=', sideId)
		.where('measuredAt', '=', of.measuredAt)
		.where('passId', '=', of.passId)
		.where('printAttempt', '=', of.printAttempt)
		.where('inspectionAttempt', '=', of.inspectionAttempt)
		.orderBy('block')
		.execute();
}

/** One pad through a run: one range scan over its block. */
export function padHistory(sideId: number, block: number, index: number, runId: number, from: Date) {
	return db
		.selectFrom('pasteReading')
		.innerJoin('panelPass', 'panelPass.id', 'pasteReading.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.select(['panel.serial', 'pasteReading.measuredAt', sql<number>`paste_reading.volume[${index + 1}] / 10.0`.as('volumePct')])
		.where('pasteReading.boardSideId', '=', sideId)
		.where('pasteReading.block', '=', block)
		.where('pasteReading.measuredAt', '>=', from)
		.where('pasteReading.inspectionAttempt', '=', 1)
		.where('panelPass.runId', '=', runId)
		.orderBy('pasteReading.measuredAt', 'desc')
		.limit(200)
		.execute();
}

/** Visits of a station that were not aborted, of a run or between two times. */
export async function visits(stationId: number, filter: { runId: number } | { from: Date; to: Date }) {
	let query = db
		.selectFrom('inspectionVisit')
		.innerJoin('panelPass', 'panelPass.id', 'inspectionVisit.passId')
		.select(['inspectionVisit.passId', 'inspectionVisit.circuit', 'inspectionVisit.startedAt', 'inspectionVisit.result'])
		.where('inspectionVisit.stationId', '=', stationId)
		.where('inspectionVisit.result', '!=', 'abort');
	query =
		'runId' in filter
			? query.where('panelPass.runId', '=', filter.runId)
			: query.where('inspectionVisit.startedAt', '>=', filter.from).where('inspectionVisit.startedAt', '<', filter.to);
	const rows = await query.execute();
	return rows.map((row) => ({
		unit: `${row.passId}/${row.circuit}`,
		startedAt: row.startedAt.getTime(),
		passed: row.result === 'pass'
	}));
}

/** First attempts of a station's circuits, of a run or between two times: how many there were, and how many passed. */
export async function firstAttempts(
	stationId: number,
	filter: { runId: number } | { from: Date; to: Date }
): Promise<{ units: number; passed: number }> {
	const where = 'runId' in filter ? sql`p.run_id = ${filter.runId}` : sql`v.started_at >= ${filter.from} and v.started_at < ${filter.to}`;
	const row = await sql<{ units: number; passed: number }>`
		select count(*)::int as units, (count(*) filter (where result = 'pass'))::int as passed from (
			select distinct on (v.pass_id, v.circuit) v.result from inspection_visit v join panel_pass p on p.id = v.pass_id
			where v.station_id = ${stationId} and v.result <> 'abort' and ${where} order by v.pass_id, v.circuit, v.started_at) first`.execute(db);
	return row.rows[0]!;
}

/** What fails most at a station, where it failed more than once; null where nothing did. */
export async function leadingFail(stationId: number, filter: { runId: number } | { from: Date; to: Date }): Promise<string | null> {
	const where = 'runId' in filter ? sql`p.run_id = ${filter.runId}` : sql`v.started_at >= ${filter.from} and v.started_at < ${filter.to}`;
	const row = await sql<{ key: string }>`
		select c.ref_des || ' ' || c.code as key from inspection_call c join inspection_visit v on v.id = c.visit_id join panel_pass p on p.id = v.pass_id
		where v.station_id = ${stationId} and ${where} group by 1 having count(*) > 1 order by count(*) desc, 1 limit 1`.execute(db);
	return row.rows[0]?.key ?? null;
}

/** Calls of a station, of a run or between two times, newest first. */
export function calls(stationId: number, filter: { runId: number } | { from: Date; to: Date }) {
	const query = db
		.selectFrom('inspectionCall')
		.innerJoin('inspectionVisit', 'inspectionVisit.id', 'inspectionCall.visitId')
		.innerJoin('panelPass', 'panelPass.id', 'inspectionVisit.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.select([
			'inspectionCall.refDes',
			'inspectionCall.pin',
			'inspectionCall.code',
			'inspectionCall.measured',
			'inspectionVisit.circuit',
			'inspectionVisit.startedAt',
			'panel.serial'
		])
		.where('inspectionVisit.stationId', '=', stationId)
		.orderBy('inspectionVisit.startedAt', 'desc');
	return 'runId' in filter
		? query.where('panelPass.runId', '=', filter.runId).execute()
		: query.where('inspectionVisit.startedAt', '>=', filter.from).where('inspectionVisit.startedAt', '<', filter.to).execute();
}

/** Latest cycles of a run, s, by station: prints of its printer, panels of its placers. */
export async function latestCycles(runId: number, printer: string | null): Promise<Map<string, number[]>> {
	const rows = await sql<{ station: string | null; cycles: number[] }>`
		select null as station, array(
			select pr.cycle_s from print pr join panel_pass p on p.id = pr.pass_id where p.run_id = ${runId} order by pr.printed_at desc limit 30) as cycles
		union all
		select s.name, array(
			select r.cycle_s from placement_report r join panel_pass p on p.id = r.pass_id
			where r.station_id = s.id and p.run_id = ${runId} order by r.placed_at desc limit 30)
		from station s join run on run.line_id = s.line_id where run.id = ${runId} and s.role = 'place'`.execute(db);
	return new Map(rows.rows.flatMap(({ station, cycles }) => ((station ?? printer) ? [[(station ?? printer)!, cycles] as const] : [])));
}

/** How many panels of a run's latest 200 passed paste check at first, and the pads that failed. */
export async function pasteYield(runId: number): Promise<{ panels: number; rejected: number; worst: { pad: number; code: string }[] }> {
	const row = await sql<{ panels: number; rejected: number; worst: { pad: number; code: string }[] | null }>`
		with latest as (
			select s.result, s.worst from paste_summary s join panel_pass p on p.id = s.pass_id
			where p.run_id = ${runId} and s.inspection_attempt = 1 order by s.measured_at desc limit 200)
		select count(*)::int as panels, (count(*) filter (where result = 'reject'))::int as rejected,
			(select jsonb_agg(w) from latest, jsonb_array_elements(worst) w) as worst from latest`.execute(db);
	const { panels, rejected, worst } = row.rows[0]!;
	return { panels, rejected, worst: worst ?? [] };
}

/** What each loaded reel of a run still holds: pieces when loaded less what the panels since then took and lost. */
export async function reels(runId: number, stationId: number | null = null) {
	const rows = await sql<{
		stationId: number;
		station: string;
		slot: number;
		partNumber: string;
		reel: string;
		makerLot: string;
		loaded: number;
		loadedAt: Date;
		panels: number;
		lost: number;
	}>`
		select distinct on (f.station_id, f.slot) f.station_id as "stationId", s.name as station, f.slot, f.part_number as "partNumber", f.reel,
			f.maker_lot as "makerLot", f.pieces as loaded, f.loaded_at as "loadedAt", used.panels, used.lost
		from feeder_load f join station s on s.id = f.station_id
		cross join lateral (
			select coalesce(sum(r.good_share), 0)::float8 as panels, coalesce(sum((r.lost ->> f.slot::text)::int), 0)::int as lost
			from placement_report r where r.station_id = f.station_id and r.placed_at >= f.loaded_at
				and r.pass_id in (select id from panel_pass where run_id = f.run_id)) used
		where f.run_id = ${runId} and (${stationId}::int is null or f.station_id = ${stationId}) order by f.station_id, f.slot, f.loaded_at desc`.execute(
		db
	);
	return rows.rows;
}
export type LoadedReel = Awaited<ReturnType<typeof reels>>[number];

/** Latest oven passes of a run. */
export function ovenPasses(runId: number, most: number) {
	return db
		.selectFrom('ovenPass')
		.innerJoin('panelPass', 'panelPass.id', 'ovenPass.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.select(['panel.serial', 'ovenPass.enteredAt', 'ovenPass.leftAt', 'ovenPass.zoneC', 'ovenPass.beltCmPerMin'])
		.where('panelPass.runId', '=', runId)
		.orderBy('ovenPass.leftAt', 'desc')
		.limit(most)
		.execute();
}
