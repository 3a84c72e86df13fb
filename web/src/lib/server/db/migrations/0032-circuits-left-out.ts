import { type Kysely, sql } from 'kysely';

/** Circuits that a placer left out because they are marked so, and what share of the panel it built for that: the rest took no pieces. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table placement_report add skipped smallint[] not null default '{}', add good_share real not null default 1`.execute(db);
}
