import { type Kysely, sql } from 'kysely';

/** Kinds of station are the application's own list; lines have a purpose; what happened is known by its own time, whatever order it is heard in. */
export async function up(db: Kysely<unknown>): Promise<void> {
	const statements = `
	alter table station drop constraint station_role_check;
	alter table line add column purpose text not null default 'surfaceMount';

	-- When the panel was last seen on this pass: an older report that comes late moves nothing.
	alter table panel_pass add column seen_at timestamptz;
	update panel_pass set seen_at = coalesce(finished_at, printed_at);
	alter table panel_pass alter seen_at set not null;

	-- What machines did, by their own times: stops are worked out from it.
	create table machine_state (
		station_id int not null references station, at timestamptz not null, boot_id uuid not null, number bigint not null,
		state text not null check (state in ('running','waiting','stopped','idle')), reason text,
		primary key (station_id, at, number, boot_id)
	);
	insert into machine_state (station_id, at, boot_id, number, state, reason)
		select station_id, from_at, '00000000-0000-0000-0000-000000000000', 2 * id, 'stopped', machine_reason from stop;
	insert into machine_state (station_id, at, boot_id, number, state, reason)
		select station_id, to_at, '00000000-0000-0000-0000-000000000000', 2 * id + 1, 'running', null from stop where to_at is not null;

	-- A message whose panel nobody has printed yet waits for the print; one that no text column can hold is kept byte by byte.
	alter table message_quarantine add column waits_for text, add column verbatim bytea;
	create index message_quarantine_waits on message_quarantine (waits_for) where state = 'open' and waits_for is not null;
	`;
	for (const statement of statements.split(/;\s*\n/)) if (statement.trim()) await sql.raw(statement).execute(db);
}
