import { type Kysely, sql } from 'kysely';

/** A run prints once its set-up is proven; who let it print without some of it, and why; and what must not go on, as one record whatever it is. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table run
		add column ready_at timestamptz,
		add column ready_by text references "user",
		add column ready jsonb`.execute(db);
	await sql`update run set ready_at = started_at, ready_by = started_by`.execute(db);
	await sql`create table run_override (
		id int generated always as identity primary key,
		run_id int not null references run on delete cascade,
		codes text[] not null,
		reason text not null,
		person_id text not null references "user",
		approved_by text references "user",
		at timestamptz not null,
		until_at timestamptz
	)`.execute(db);
	await sql`create index on run_override (run_id)`.execute(db);
	await sql`create table hold (
		id int generated always as identity primary key,
		kind text not null,
		subject text not null,
		code text not null,
		why text not null,
		since timestamptz not null,
		obeys text[] not null,
		lifts text not null,
		line_id int references line,
		pass_id int references panel_pass on delete cascade,
		print_attempt smallint,
		lifted_at timestamptz,
		lifted_by text references "user",
		lifted_approved_by text references "user",
		lifted_how text,
		lift_note text,
		check ((lifted_at is null) = (lifted_how is null))
	)`.execute(db);
	await sql`create unique index hold_open on hold (kind, subject, code) where lifted_at is null`.execute(db);
	await sql`create index on hold (since desc)`.execute(db);
	await sql`create index on hold (pass_id)`.execute(db);
}
