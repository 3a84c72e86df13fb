import { type Kysely, sql } from 'kysely';

/** Where the baseline of a run's charts begins, where somebody has taken it anew. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table chart_baseline (
		run_id int not null references run on delete cascade,
		revision int not null,
		from_at timestamptz not null,
		created_by text not null references "user",
		created_at timestamptz not null,
		primary key (run_id, revision)
	)`.execute(db);
}
