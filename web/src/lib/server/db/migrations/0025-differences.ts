import { type Kysely, sql } from 'kysely';

/** What was said of each difference between a side's files; the latest counts. What was read from the files never changes, so its number names it. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table finding_answer (
		id bigint generated always as identity primary key,
		board_side_id int not null references board_side,
		finding int not null,
		state text not null check (state in ('accepted','sentBack','open')),
		reason text not null,
		person_id text not null references "user",
		at timestamptz not null
	)`.execute(db);
	await sql`create index on finding_answer (board_side_id, finding, id desc)`.execute(db);
}
