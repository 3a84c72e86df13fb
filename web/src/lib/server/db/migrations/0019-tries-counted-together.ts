import { type Kysely, sql } from 'kysely';

/** How many tries of PINs are left under each key: counted by all processes together, and of no worth after a crash. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create unlogged table guess_count (
		key text primary key,
		n double precision not null,
		at timestamptz not null
	)`.execute(db);
	await sql`create index on guess_count (at)`.execute(db);
}
