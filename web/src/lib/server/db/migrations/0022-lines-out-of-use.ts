import { type Kysely, sql } from 'kysely';

/** A line that is not built on any more: it stays, with all that was built on it. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table line add column out_of_use_at timestamptz`.execute(db);
}
