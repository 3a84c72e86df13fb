import { type Kysely, sql } from 'kysely';

/** In which quadrant of its tape a part's pin 1 has to lie for the angles of the programs: a reel that lies otherwise is refused at the feeder. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table part_orientation (
		part_number text primary key,
		quadrant smallint not null check (quadrant between 1 and 4),
		set_at timestamptz not null,
		set_by text not null references "user"
	)`.execute(db);
}
