import { type Kysely, sql } from 'kysely';

/** Sums by class of inspections whose readings were not kept: an inspection that turns out to be of another board side takes them along in the day's sums. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table paste_summary add column class_sums jsonb`.execute(db);
}
