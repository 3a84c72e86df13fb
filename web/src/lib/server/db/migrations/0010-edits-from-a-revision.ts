import { type Kysely, sql } from 'kysely';

/** Pastes and panels are changed in place: their revision says which state an edit was begun from. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table paste add column revision int not null default 1`.execute(db);
	await sql`alter table board_revision add column panel_revision int not null default 1`.execute(db);
}
