import { type Kysely, sql } from 'kysely';

/** What happened to feeders and nozzles: faults that somebody saw, care, out of service and back. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table wear_event (
		id serial primary key,
		feeder text,
		station_id int references station on delete cascade,
		nozzle text,
		kind text not null check (kind in ('fault', 'care', 'out', 'in')),
		note text not null default '',
		at timestamptz not null,
		by_id text not null references "user",
		check ((feeder is null) = (station_id is not null) and (station_id is null) = (nozzle is null))
	)`.execute(db);
	await sql`create index on wear_event (lower(feeder), at desc)`.execute(db);
	await sql`create index on wear_event (station_id, nozzle, at desc)`.execute(db);
}
