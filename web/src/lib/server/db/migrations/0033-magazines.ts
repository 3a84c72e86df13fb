import { type Kysely, sql } from 'kysely';

/** What somebody said stands at the ends of a line: panels in the loader, room in the unloader. The latest of each end counts. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table magazine (
		id serial primary key,
		line_id int not null references line on delete cascade,
		"end" text not null check ("end" in ('loader', 'unloader')),
		panels int not null check (panels >= 0),
		set_at timestamptz not null,
		set_by text not null references "user"
	)`.execute(db);
	await sql`create index on magazine (line_id, "end", set_at desc)`.execute(db);
}
