import { type Kysely, sql } from 'kysely';

/** What a plant, its people and its machines are can be corrected: the plant's facts and rules by revision, starting codes and leavers, machine data by
 * revision with the one that each run was begun with, stations out of use.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table plant
		add column holidays jsonb not null default '[]',
		add column revision int not null default 1`.execute(db);
	await sql`create table plant_rule (
		id int generated always as identity primary key,
		name text not null,
		revision int not null,
		value jsonb not null,
		set_by text not null references "user",
		set_at timestamptz not null,
		unique (name, revision)
	)`.execute(db);
	await sql`create table plant_step (
		name text primary key,
		said_by text not null references "user",
		said_at timestamptz not null
	)`.execute(db);
	await sql`alter table "user" add column left_at timestamptz, add column code_hash text, add column code_ends_at timestamptz`.execute(db);
	await sql`alter table station add column out_of_use_at timestamptz, add column revision int not null default 1`.execute(db);
	await sql`create unique index station_name on station (line_id, lower(name)) where out_of_use_at is null`.execute(db);
	await sql`create table station_revision (
		station_id int not null references station on delete cascade,
		revision int not null,
		spec jsonb not null,
		set_by text references "user",
		set_at timestamptz not null,
		primary key (station_id, revision)
	)`.execute(db);
	await sql`insert into station_revision (station_id, revision, spec, set_at)
		select id, 1, spec, coalesce((select min(at) from action_log), now()) from station`.execute(db);
	await sql`alter table message_source add column station_id int references station`.execute(db);
	await sql`alter table run add column machines jsonb not null default '{}'`.execute(db);
}
