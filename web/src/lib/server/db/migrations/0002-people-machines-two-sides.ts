import { type Kysely, sql } from 'kysely';

/** Station PCs, rights and approvals, undo, drafts; machine tokens and quarantine; panels that pass twice; stops, profiles, packages. */
export async function up(db: Kysely<unknown>): Promise<void> {
	const statements = `
	alter table panel rename to panel_pass;
	create table panel (
		id int generated always as identity primary key, serial text not null unique, job_id int not null references job
	);
	insert into panel (serial, job_id) select p.serial, r.job_id from panel_pass p join run r on r.id = p.run_id;
	alter table panel_pass add column panel_id int references panel;
	update panel_pass set panel_id = panel.id from panel where panel.serial = panel_pass.serial;
	alter table panel_pass alter panel_id set not null, drop column serial, add unique (panel_id, run_id);
	alter table print rename panel_id to pass_id;
	alter table paste_reading rename panel_id to pass_id;
	alter table paste_summary rename panel_id to pass_id;
	alter table placement_report rename panel_id to pass_id;
	alter table oven_pass rename panel_id to pass_id;
	alter table inspection_visit rename panel_id to pass_id;

	alter table board_file drop constraint board_file_kind_check;
	alter table board_file add check (kind in ('paste','positions','bom','outline','netlist','layer'));

	alter table message_quarantine add source text, add state text not null default 'open' check (state in ('open','readmitted','dismissed')),
		add settled_by text references "user"(id), add settled_at timestamptz, add corrected text;
	create index message_quarantine_open on message_quarantine (id) where state = 'open';
	create table message_source (
		source text primary key, received bigint not null, accepted bigint not null, duplicates bigint not null, quarantined bigint not null,
		last_at timestamptz not null
	);
	insert into message_source (source, received, accepted, duplicates, quarantined, last_at)
		select source, count(*), count(*), 0, 0, max(received_at) from message_ledger group by source;
	create table machine_token (
		id int generated always as identity primary key, name text not null, hash text not null unique,
		created_by text references "user"(id), created_at timestamptz not null,
		revoked_by text references "user"(id), revoked_at timestamptz, used_at timestamptz
	);
	create table station_pc (
		id int generated always as identity primary key, name text not null unique, line_id int references line, hash text not null unique,
		created_by text not null references "user"(id), created_at timestamptz not null, revoked_at timestamptz,
		person_id text references "user"(id), seen_at timestamptz
	);

	create table action_rule (
		action text primary key, roles text[] not null, approval text not null check (approval in ('none','pin','second')),
		set_by text not null references "user"(id), set_at timestamptz not null
	);
	alter table action_log add approved_by text references "user"(id), add station_pc text, add line_id int references line, add undo jsonb,
		add reverses int references action_log;
	create unique index action_log_reversed_once on action_log (reverses) where reverses is not null;
	alter table job add withdrawn_at timestamptz;
	create table draft (
		person_id text not null references "user"(id), subject text not null, content jsonb not null, base text not null,
		saved_at timestamptz not null, primary key (person_id, subject)
	);

	create table stop (
		id int generated always as identity primary key, station_id int not null references station, run_id int references run,
		from_at timestamptz not null, to_at timestamptz, machine_reason text
	);
	create index stop_by_station on stop (station_id, from_at);
	create table stop_reason (
		id int generated always as identity primary key, stop_id int not null references stop, reason text not null,
		person_id text not null references "user"(id), at timestamptz not null, withdrawn boolean not null default false
	);
	create index stop_reason_by_stop on stop_reason (stop_id);

	create table profile_log (
		id int generated always as identity primary key, board_side_id int not null references board_side, line_id int not null references line,
		name text not null, recipe jsonb not null, log jsonb not null, content bytea not null,
		created_by text not null references "user"(id), created_at timestamptz not null
	);
	create table package_fact (
		id int generated always as identity primary key, package_name text not null, field text not null, value double precision,
		source text not null, set_by text not null references "user"(id), set_at timestamptz not null
	);
	create index package_fact_by_name on package_fact (package_name, field, id)`;
	for (const statement of statements.split(/;\s*\n/)) await sql.raw(statement).execute(db);
}
