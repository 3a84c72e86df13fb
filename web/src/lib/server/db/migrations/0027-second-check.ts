import { type Kysely, sql } from 'kysely';

/** Who scanned a feeder into its slot, and who scanned it there a second time, where the plant asks for that. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table feeder add docked_by text references "user", add checked_by text references "user", add checked_at timestamptz`.execute(
		db
	);
}
