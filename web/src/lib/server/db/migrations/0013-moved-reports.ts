import { type Kysely, sql } from 'kysely';

/** Reports that were shown on a pass before a print heard late showed that they are of another: what was shown stays on record. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table moved_report (
		id bigint generated always as identity primary key,
		from_pass_id bigint not null references panel_pass on delete cascade,
		to_pass_id bigint not null references panel_pass on delete cascade,
		role text not null,
		at timestamptz not null,
		moved_at timestamptz not null,
		shown jsonb,
		judged jsonb
	)`.execute(db);
	await sql`create index moved_report_from on moved_report (from_pass_id)`.execute(db);
	await sql`create index moved_report_to on moved_report (to_pass_id)`.execute(db);
}
