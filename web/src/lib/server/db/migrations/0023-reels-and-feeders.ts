import { type Kysely, sql } from 'kysely';

/** Reels, sticks and trays with what became of them; feeders with what is in them and where they stand; every scan at them, right or wrong. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table reel (
		code text primary key,
		part_number text not null,
		kind text not null,
		maker_part text not null,
		maker_lot text not null,
		date_code text not null,
		owner text,
		place text not null,
		pieces int not null,
		tape_mm double precision,
		pitch_mm double precision,
		quadrant smallint,
		moisture_level text,
		label_h double precision,
		split_from text references reel,
		received_at timestamptz not null,
		entered_at timestamptz not null,
		entered_by text not null references "user"
	)`.execute(db);
	await sql`create index on reel (part_number)`.execute(db);
	await sql`create unique index reel_by_code on reel (lower(code))`.execute(db);
	await sql`create table reel_event (
		id bigint generated always as identity primary key,
		reel text not null references reel,
		kind text not null,
		at timestamptz not null,
		entered_at timestamptz not null,
		person_id text not null references "user",
		pieces int,
		rh_pct double precision,
		place text not null default '',
		note text not null default ''
	)`.execute(db);
	await sql`create index on reel_event (reel, at)`.execute(db);
	await sql`create table feeder (
		code text primary key,
		tape_mm double precision not null,
		pitch_mm double precision not null,
		reel text unique references reel,
		station_id int references station,
		slot int,
		docked_at timestamptz,
		out_of_service text,
		entered_at timestamptz not null,
		entered_by text not null references "user",
		check ((station_id is null) = (slot is null) and (station_id is null) = (docked_at is null))
	)`.execute(db);
	await sql`create unique index feeder_by_code on feeder (lower(code))`.execute(db);
	await sql`create unique index feeder_in_slot on feeder (station_id, slot)`.execute(db);
	await sql`create table feeder_scan (
		id bigint generated always as identity primary key,
		at timestamptz not null,
		person_id text not null references "user",
		station_id int references station,
		run_id int references run,
		slot int,
		feeder text,
		reel text,
		did text not null,
		ok boolean not null,
		codes text[] not null,
		words text not null
	)`.execute(db);
	await sql`create index on feeder_scan (station_id, at)`.execute(db);
}
