import { type Kysely, sql } from 'kysely';

/** Picks by nozzle where a placer counts them; what feeders and nozzles have done, and when somebody cared for them. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table placement_report add nozzles jsonb`.execute(db);
	await sql`alter table feeder
		add picks bigint not null default 0, add lost bigint not null default 0,
		add cared_at timestamptz, add cared_picks bigint not null default 0`.execute(db);
	await sql`create table nozzle (
		station_id int not null references station,
		name text not null,
		picks bigint not null default 0,
		lost bigint not null default 0,
		cared_at timestamptz,
		cared_picks bigint not null default 0,
		primary key (station_id, name)
	)`.execute(db);
}
