import { sql } from 'kysely';
import type { CameTo } from '@keen-relay/core/trace';
import type { Trx } from '../db/index.ts';
import { insertRows } from '../db/insert-rows.ts';
import { plantNow } from '../plant/clock.ts';
import { STATION_MODULES } from '../stations/index.ts';
import type { MovedRow, PassRows } from '../stations/module.ts';

/** Every table whose rows hang on a pass, once. */
const TABLES = [...new Map(STATION_MODULES.flatMap(({ role, rows }) => (rows ?? []).map((r) => [r.table, { ...r, role }]))).values()];

/** Where a panel goes through a line more than once, what was reported belongs to the latest pass that was printed by then, or to the first. A print that is heard
 * late may show that a report was taken for the wrong one: it moves, and where each pass was last seen follows anew. So what is on record does not depend on the
 * order in which it was heard.
 * @param panelIds panels of which a print was heard that is not their first
 */
export async function setPassesApart(trx: Trx, panelIds: readonly number[]): Promise<void> {
	if (panelIds.length === 0) return;
	for (const table of TABLES) {
		const moved = await moveRows(trx, panelIds, table);
		if (moved.length === 0) continue;
		const came: Partial<{ shown: CameTo; judged: CameTo }>[] = (await table.moved?.(trx, moved)) ?? [];
		const movedAt = new Date(await plantNow());
		await insertRows(
			trx,
			'movedReport',
			moved.map((row, i) => ({ ...row, ...came[i] })),
			({ from, to, at, shown, judged }) => ({
				fromPassId: from,
				toPassId: to,
				role: table.role,
				at,
				movedAt,
				shown: shown ? JSON.stringify(shown) : null,
				judged: judged ? JSON.stringify(judged) : null
			})
		);
	}
	await seeAnew(trx, panelIds);
}

/** Line of a report: of its station, or of its pass where the table names none. */
const lineOf = ({ station }: PassRows) =>
	station === null
		? sql`(select r.line_id from run r where r.id = p.run_id)`
		: sql`(select s.line_id from station s where s.id = t.${sql.ref(station)})`;

async function moveRows(trx: Trx, panelIds: readonly number[], table: PassRows): Promise<MovedRow[]> {
	const key = sql.join(table.key.map((column) => sql`t.${sql.ref(column)}`));
	const sameKey = sql.join(
		table.key.map((column) => sql`x.${sql.ref(column)} = w.${sql.ref(column)}`),
		sql` and `
	);
	const { rows } = await sql<Record<string, number> & { from: number; to: number; at: Date }>`
		with found as (
			select t.ctid as place, t.pass_id as "from", t.${sql.ref(table.at)} as at, ${key}, (
				select o.id from panel_pass o join run r on r.id = o.run_id
				where o.panel_id = p.panel_id
				order by r.line_id <> ${lineOf(table)}, o.printed_at > t.${sql.ref(table.at)}, case when o.printed_at > t.${sql.ref(table.at)} then o.printed_at end, o.printed_at desc
				limit 1
			) as "to"
			from ${sql.table(table.table)} t join panel_pass p on p.id = t.pass_id where p.panel_id = any(${panelIds})
		), wrong as (
			select distinct on (w."to", ${sql.join(table.key.map((column) => sql`w.${sql.ref(column)}`))}) w.* from found w
			where w."to" <> w."from" and not exists (select from ${sql.table(table.table)} x where x.pass_id = w."to" and ${sameKey})
		)
		update ${sql.table(table.table)} t set pass_id = w."to" from wrong w where t.ctid = w.place
		returning w."from", w."to", w.at, ${key}`.execute(trx);
	return rows.map(({ from, to, at, ...own }) => ({ from, to, at, key: snake(own) }));
}

/** Columns come back in camel case; a key is told by its column. */
const snake = (own: Record<string, number>): Record<string, number> =>
	Object.fromEntries(Object.entries(own).map(([name, value]) => [name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`), value]));

/** Where each pass was last seen, by its own line's stations. */
async function seeAnew(trx: Trx, panelIds: readonly number[]): Promise<void> {
	const reports = TABLES.map(
		(table) => sql`select t.pass_id, t.${sql.ref(table.at)} as at, s.id, s.position from ${sql.table(table.table)} t
			join own on own.pass_id = t.pass_id join station s on s.line_id = own.line_id and ${
				table.station === null ? sql`s.role = ${table.role}` : sql`s.id = t.${sql.ref(table.station)}`
			}`
	);
	await sql`
		with own as (select p.id as pass_id, r.line_id from panel_pass p join run r on r.id = p.run_id where p.panel_id = any(${panelIds})),
		reports as (
			select t.pass_id, t.printed_at as at, s.id, s.position from print t
			join own on own.pass_id = t.pass_id join station s on s.line_id = own.line_id and s.role = 'print'
			union all ${sql.join(reports, sql` union all `)}
		), latest as (
			select distinct on (pass_id) reports.*,
				not exists (select from station o join station s on s.line_id = o.line_id where s.id = reports.id and o.position > s.position) as is_last
			from reports order by pass_id, at desc, position desc
		)
		update panel_pass p set seen_at = l.at, station_id = case when is_last then null else l.id end, finished_at = case when is_last then l.at end
		from latest l where p.id = l.pass_id`.execute(trx);
}
