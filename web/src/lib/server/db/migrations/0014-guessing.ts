import { type Kysely, sql } from 'kysely';

/** Browsers at which a person signed in before, and tries of a PIN that failed. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table known_screen (
		hash text not null,
		person_id text not null references "user" on delete cascade,
		at timestamptz not null,
		primary key (hash, person_id)
	)`.execute(db);
	await sql`create table failed_try (
		id bigint generated always as identity primary key,
		at timestamptz not null,
		badge text not null,
		address text not null,
		station_pc text,
		doing text not null,
		answered boolean not null
	)`.execute(db);
	await sql`create index failed_try_at on failed_try (at)`.execute(db);
}
