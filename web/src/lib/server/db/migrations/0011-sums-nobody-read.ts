import { type Kysely, sql } from 'kysely';

/** Sums by class and day were kept and never read: the panels' own summaries say more. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`drop table paste_class_day`.execute(db);
}
