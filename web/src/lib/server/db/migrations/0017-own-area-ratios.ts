import { type Kysely, sql } from 'kysely';

/** Openings of a stencil that go by an area ratio of their own, by their index. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table stencil add column own_limits jsonb not null default '{}'`.execute(db);
}
