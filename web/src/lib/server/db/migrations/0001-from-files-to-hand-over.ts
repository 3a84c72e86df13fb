import { type Kysely, sql } from 'kysely';

/** Everything from a board's files to a signed hand-over. */
export async function up(db: Kysely<unknown>): Promise<void> {
	const statements = `
	create table "user" (
		id text primary key, name text not null, email text not null unique, "emailVerified" boolean not null default false,
		image text, "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now(),
		username text not null unique, "displayUsername" text, role text not null
	);
	create table session (
		id text primary key, "expiresAt" timestamptz not null, token text not null unique, "createdAt" timestamptz not null default now(),
		"updatedAt" timestamptz not null default now(), "ipAddress" text, "userAgent" text,
		"userId" text not null references "user"(id) on delete cascade
	);
	create table account (
		id text primary key, "accountId" text not null, "providerId" text not null, "userId" text not null references "user"(id) on delete cascade,
		"accessToken" text, "refreshToken" text, "idToken" text, "accessTokenExpiresAt" timestamptz, "refreshTokenExpiresAt" timestamptz,
		scope text, password text, "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now()
	);
	create table verification (
		id text primary key, identifier text not null, value text not null, "expiresAt" timestamptz not null,
		"createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now()
	);

	create table plant (
		id int primary key check (id = 1), name text not null, time_zone text not null, shifts jsonb not null, demo boolean not null
	);
	create table plant_clock (
		id int primary key check (id = 1), rate real not null check (rate between 1 and 60),
		real_at timestamptz not null, plant_at timestamptz not null, seen_at timestamptz not null
	);

	create table line (id int generated always as identity primary key, name text not null unique);
	create table station (
		id int generated always as identity primary key, line_id int not null references line, position int not null,
		role text not null check (role in ('print','pasteCheck','place','oven','optical','inCircuit')),
		name text not null, spec jsonb not null,
		state text not null default 'idle' check (state in ('running','waiting','stopped','idle')), state_reason text, state_at timestamptz,
		unique (line_id, position)
	);

	create table board_revision (
		id int generated always as identity primary key, name text not null, customer text not null, revision text not null,
		created_by text not null references "user"(id), created_at timestamptz not null, unique (name, revision)
	);
	create table board_side (
		id int generated always as identity primary key, board_revision_id int not null references board_revision,
		side text not null check (side in ('top','bottom')), width_mm real not null, height_mm real not null, build jsonb not null,
		apertures jsonb not null, parts jsonb not null, findings jsonb not null, issues jsonb not null, bom jsonb not null,
		panel jsonb not null, panel_set_by text references "user"(id), unique (board_revision_id, side)
	);
	create table board_file (
		id int generated always as identity primary key, board_side_id int not null references board_side,
		kind text not null check (kind in ('paste','positions','bom','outline')), name text not null, sha256 text not null, content bytea not null
	);

	create table paste (id int generated always as identity primary key, name text not null unique, "window" jsonb not null);
	create table stencil (
		id int generated always as identity primary key, board_side_id int not null references board_side, revision int not null,
		status text not null check (status in ('draft','released','retired')), foil_um real not null, wall text not null, verdict jsonb not null,
		created_by text not null references "user"(id), created_at timestamptz not null, unique (board_side_id, revision)
	);
	create table placement_program (
		id int generated always as identity primary key, board_side_id int not null references board_side, line_id int not null references line,
		revision int not null, status text not null check (status in ('draft','released','retired')), plan jsonb not null,
		created_by text not null references "user"(id), created_at timestamptz not null, unique (board_side_id, line_id, revision)
	);
	create table oven_recipe (
		id int generated always as identity primary key, board_side_id int not null references board_side, line_id int not null references line,
		paste_id int not null references paste, revision int not null, status text not null check (status in ('draft','released','retired')),
		recipe jsonb not null, use_pct real, verdict jsonb not null,
		created_by text not null references "user"(id), created_at timestamptz not null, unique (board_side_id, line_id, revision)
	);

	create table job (
		id int generated always as identity primary key, number text not null unique, board_revision_id int not null references board_revision,
		panels int not null check (panels > 0), created_by text not null references "user"(id), created_at timestamptz not null
	);
	create table run (
		id int generated always as identity primary key, job_id int not null references job, board_side_id int not null references board_side,
		line_id int not null references line, stencil_id int not null references stencil,
		placement_program_id int not null references placement_program, oven_recipe_id int not null references oven_recipe,
		started_by text not null references "user"(id), started_at timestamptz not null,
		ended_by text references "user"(id), ended_at timestamptz
	);
	create unique index run_one_at_a_time on run (line_id) where ended_at is null;

	create table panel (
		id int generated always as identity primary key, serial text not null unique, run_id int not null references run,
		station_id int references station, printed_at timestamptz not null, finished_at timestamptz
	);
	create index panel_by_run on panel (run_id, printed_at);
	create index panel_by_time on panel (printed_at);
	create index panel_on_line on panel (station_id) where station_id is not null;
	create table print (
		id int generated always as identity primary key, panel_id int not null references panel, print_attempt int not null,
		printed_at timestamptz not null, stroke text not null check (stroke in ('F','R')), prints_since_wipe int not null, cycle_s real not null,
		unique (panel_id, print_attempt)
	);

	create table paste_reading (
		board_side_id int not null, block smallint not null, measured_at timestamptz not null, panel_id int not null,
		print_attempt smallint not null, inspection_attempt smallint not null,
		volume smallint[] not null, height smallint[] not null, area smallint[] not null, offset_x smallint[] not null, offset_y smallint[] not null,
		primary key (board_side_id, block, measured_at, panel_id, print_attempt, inspection_attempt)
	) partition by range (measured_at);
	create table paste_summary (
		panel_id int not null references panel, print_attempt int not null, inspection_attempt int not null, measured_at timestamptz not null,
		result text not null check (result in ('pass','review','reject')), pads int not null, fails int not null, warnings int not null,
		mean_volume_pct real not null, class_means jsonb not null, worst jsonb not null,
		primary key (panel_id, print_attempt, inspection_attempt)
	);
	create index paste_summary_by_time on paste_summary (measured_at);
	create table paste_class_day (
		board_side_id int not null references board_side, day date not null, pad_class text not null,
		pads int not null, fails int not null, sum_pct double precision not null, sum_squares_pct double precision not null,
		primary key (board_side_id, day, pad_class)
	);

	create table placement_report (
		id int generated always as identity primary key, panel_id int not null references panel, station_id int not null references station,
		placed_at timestamptz not null, cycle_s real not null, lost jsonb not null, unique (panel_id, station_id)
	);
	create table feeder_load (
		id int generated always as identity primary key, station_id int not null references station, run_id int not null references run,
		slot int not null, part_number text not null, reel text not null, maker_lot text not null, pieces int not null, loaded_at timestamptz not null
	);
	create index feeder_load_by_run on feeder_load (run_id, station_id, slot, loaded_at);
	create table oven_pass (
		id int generated always as identity primary key, panel_id int not null references panel, station_id int not null references station,
		entered_at timestamptz not null, left_at timestamptz not null, zone_c real[] not null, belt_cm_per_min real not null
	);
	create index oven_pass_by_panel on oven_pass (panel_id);
	create table inspection_visit (
		id int generated always as identity primary key, panel_id int not null references panel, station_id int not null references station,
		circuit int not null, attempt int not null, started_at timestamptz not null, ended_at timestamptz not null,
		result text not null check (result in ('pass','fail','abort')), unique (panel_id, station_id, circuit, attempt)
	);
	create index inspection_visit_by_time on inspection_visit (station_id, started_at);
	create table inspection_call (
		id int generated always as identity primary key, visit_id int not null references inspection_visit,
		ref_des text not null, pin text, code text not null, measured text
	);
	create index inspection_call_by_visit on inspection_call (visit_id);

	create table message_ledger (
		source text not null, boot_id uuid not null, number bigint not null, hash text not null, received_at timestamptz not null,
		primary key (source, boot_id, number)
	);
	create table message_quarantine (
		id int generated always as identity primary key, received_at timestamptz not null, line int not null, raw text not null,
		reason text not null, conflict boolean not null
	);

	create table hand_over (
		id int generated always as identity primary key, line_id int not null references line, shift_date date not null, shift_name text not null,
		lines jsonb not null, note text not null,
		outgoing_id text references "user"(id), outgoing_at timestamptz, incoming_id text references "user"(id), incoming_at timestamptz,
		unique (line_id, shift_date, shift_name), check (outgoing_id is distinct from incoming_id or outgoing_id is null)
	);
	create table action_log (
		id int generated always as identity primary key, at timestamptz not null, person_id text not null references "user"(id),
		action text not null, subject text not null
	);
	create index action_log_by_time on action_log (at)`;
	for (const statement of statements.split(/;\s*\n/)) await sql.raw(statement).execute(db);
}
