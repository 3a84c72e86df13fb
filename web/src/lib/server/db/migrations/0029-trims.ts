import { type Kysely, sql } from 'kysely';

/** Where parts sit against where they should, as an optical inspection measured it; corrections of a placer's program that were made for it. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table inspection_visit add offsets jsonb`.execute(db);
	await sql`create table trim (
		id bigint generated always as identity primary key,
		station_id int not null references station,
		board_side_id int not null references board_side,
		revision int not null,
		level text not null,
		name text not null,
		feeder text,
		dx_um real not null,
		dy_um real not null,
		was_dx_um real not null,
		was_dy_um real not null,
		placements int not null,
		panels int not null,
		after_oven boolean not null,
		data_from timestamptz not null,
		person_id text not null references "user",
		at timestamptz not null,
		expires_at timestamptz not null,
		undone_at timestamptz,
		unique (station_id, board_side_id, revision)
	)`.execute(db);
}
