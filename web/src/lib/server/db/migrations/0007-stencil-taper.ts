import { type Kysely, sql } from 'kysely';

/** How much wider a stencil's openings are at the board side, µm; null where nobody measured it. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table stencil add column taper_um real check (taper_um >= 0)`.execute(db);
}
