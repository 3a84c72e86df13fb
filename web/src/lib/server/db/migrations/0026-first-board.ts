import { type Kysely, sql } from 'kysely';

/** The first board of a run: whether the line holds for it and why, what was said of each line of its checklist (the latest counts), and who released it.
 * Runs that were begun before have none.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table run
		add first_board text check (first_board in ('hold','roll')),
		add first_board_why text[] not null default '{}',
		add first_board_at timestamptz,
		add first_board_by text references "user"`.execute(db);
	await sql`create table first_board_check (
		id bigint generated always as identity primary key,
		run_id int not null references run,
		key text not null,
		rests text not null,
		is_right boolean not null,
		note text not null,
		panel text not null,
		person_id text not null references "user",
		at timestamptz not null
	)`.execute(db);
	await sql`create index on first_board_check (run_id, id)`.execute(db);
}
