import { type Kysely, sql } from 'kysely';

/** With a year stored nothing that a page shows is counted over all of it. */
export async function up(db: Kysely<unknown>): Promise<void> {
	const statements = `
	-- Prints of a run are counted as they come in.
	alter table run add column prints int not null default 0;
	update run set prints = made.n from (
		select p.run_id, count(*)::int as n from print x join panel_pass p on p.id = x.pass_id group by p.run_id
	) made where made.run_id = run.id;

	-- Panels that a run has finished are counted without looking at them.
	create index panel_pass_of_run_finished on panel_pass (run_id) where finished_at is not null;
	create index panel_by_job on panel (job_id);
	create index sensor_reading_by_time on sensor_reading (at);
	create index paste_summary_repeated on paste_summary (measured_at) where inspection_attempt > 1;
	`;
	for (const statement of statements.split(/;\s*\n/)) if (statement.trim()) await sql.raw(statement).execute(db);
	// Panels are looked for by any part of their serial. Where the database may not have the extension, that is slower and works.
	await sql`do $$ begin
		create extension if not exists pg_trgm;
		create index panel_serial_part on panel using gin (serial gin_trgm_ops);
	exception when others then raise notice 'no index for parts of a serial: %', sqlerrm; end $$`.execute(db);
}
