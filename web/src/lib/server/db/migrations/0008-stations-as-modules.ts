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

	update stencil s set status = 'retired' where status = 'released' and exists (select 1 from stencil o where o.board_side_id = s.board_side_id and o.status = 'released' and o.revision > s.revision);
	update placement_program s set status = 'retired' where status = 'released' and exists (select 1 from placement_program o where o.board_side_id = s.board_side_id and o.line_id = s.line_id and o.status = 'released' and o.revision > s.revision);
	update oven_recipe s set status = 'retired' where status = 'released' and exists (select 1 from oven_recipe o where o.board_side_id = s.board_side_id and o.line_id = s.line_id and o.status = 'released' and o.revision > s.revision);
	update print_recipe s set status = 'retired' where status = 'released' and exists (select 1 from print_recipe o where o.board_side_id = s.board_side_id and o.line_id = s.line_id and o.status = 'released' and o.revision > s.revision);

	-- One is released at a time.
	create unique index stencil_released on stencil (board_side_id) where status = 'released';
	create unique index placement_program_released on placement_program (board_side_id, line_id) where status = 'released';
	create unique index oven_recipe_released on oven_recipe (board_side_id, line_id) where status = 'released';
	create unique index print_recipe_released on print_recipe (board_side_id, line_id) where status = 'released';

	-- Lists of boards count what they show without reading any geometry.
	alter table board_side add column openings int generated always as (jsonb_array_length(apertures)) stored,
		add column fitted_parts int generated always as (jsonb_array_length(parts)) stored;
	create index run_by_line on run (line_id, started_at);
	create index run_by_job on run (job_id, board_side_id);
	create index panel_pass_finished on panel_pass (finished_at) where finished_at is not null;
	create index placement_report_by_time on placement_report (station_id, placed_at);
	create index print_by_time on print (printed_at);
	create index stop_by_end on stop (station_id, to_at);

	-- Boots that a source has been heard with: one that is over takes no more messages, and what the ledger kept of it can go.
	create table message_boot (
		source text not null, boot_id uuid not null, first_at timestamptz not null, last_at timestamptz not null, closed_at timestamptz,
		primary key (source, boot_id)
	);
	insert into message_boot (source, boot_id, first_at, last_at)
		select source, boot_id, min(received_at), max(received_at) from message_ledger group by source, boot_id;
	`;
	for (const statement of statements.split(/;\s*\n/)) if (statement.trim()) await sql.raw(statement).execute(db);
}
