import { type Kysely, sql } from 'kysely';

/** How many inspections of paste a run has, moved ones counted again: what is worked out from them holds until it changes, and nobody counts the run for it. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table run add column paste_reports int not null default 0`.execute(db);
	await sql`update run r set paste_reports = x.n from (
		select p.run_id, count(*)::int as n from paste_summary s join panel_pass p on p.id = s.pass_id group by p.run_id
	) x where x.run_id = r.id`.execute(db);
}
