import { type Kysely, sql } from 'kysely';

/** Parts that may stand for another, for one customer or for all (null); the latest row of a pair counts, and one that is not approved takes it back. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table alternate (
		id bigint generated always as identity primary key,
		part_number text not null,
		alternate text not null,
		customer text,
		approved boolean not null,
		note text not null,
		person_id text not null references "user",
		at timestamptz not null
	)`.execute(db);
	await sql`create index on alternate (part_number, alternate, id desc)`.execute(db);
}
