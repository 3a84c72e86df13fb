import { type Kysely, sql } from 'kysely';

/** Whether a reel was spliced to the tape that ran in its slot: the reel before then goes on until its tape has run through. Why a nozzle is not used; null: it is. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table feeder_load add spliced boolean not null default false`.execute(db);
	await sql`alter table nozzle add out_of_service text`.execute(db);
}
