import { type Kysely, sql } from 'kysely';

/** Paste and its jars, sensors, stencils as things, print recipes, first prints, limits, signatures and what was done about them. */
export async function up(db: Kysely<unknown>): Promise<void> {
	const statements = `
	alter table paste add part_number text, add maker text, add alloy text, add powder text, add flux_class text, add wash text,
		add metal_mass_share real not null default 0.885, add metal_g_per_cm3 real not null default 7.4, add rules jsonb not null default '{}';
	create table paste_jar (
		id text primary key, paste_id int not null references paste, lot text not null, received_at timestamptz not null,
		printed_expiry text not null, expires_at timestamptz not null, grams real not null check (grams > 0),
		fridge_id int, from_jar text references paste_jar, inherits jsonb,
		entered_by text references "user"(id), entered_at timestamptz not null
	);
	create table paste_jar_event (
		id int generated always as identity primary key, jar_id text not null references paste_jar, kind text not null, at timestamptz not null,
		entered_at timestamptz not null, person_id text references "user"(id), source text, stirred boolean, by_means text, grams real,
		stencil_tool_id int, line_id int references line, run_id int references run, air_c real, of_event int references paste_jar_event, note text
	);
	create index paste_jar_event_by_jar on paste_jar_event (jar_id, at);
	create index paste_jar_event_by_line on paste_jar_event (line_id, at) where line_id is not null;

	create table sensor (
		id int generated always as identity primary key, name text not null unique, kind text not null check (kind in ('fridge','room','store','cabinet')),
		line_id int references line, calibrated_on date, every_min real not null default 5,
		low_c real not null, high_c real not null, low_rh_pct real, high_rh_pct real, grace_min real not null
	);
	alter table paste_jar add foreign key (fridge_id) references sensor;
	create table sensor_reading (
		sensor_id int not null references sensor, at timestamptz not null, temperature_c real not null, rh_pct real, primary key (sensor_id, at)
	);

	create table stencil_tool (
		id int generated always as identity primary key, code text not null unique, stencil_id int not null references stencil,
		place text not null, measured_um real, state text not null default 'usable' check (state in ('usable','blocked','scrapped')), damage text,
		circuits int not null, fiducials jsonb not null, washed_prints int not null default 0,
		made_by text not null references "user"(id), made_at timestamptz not null
	);
	create table stencil_tool_event (
		id int generated always as identity primary key, stencil_tool_id int not null references stencil_tool,
		kind text not null check (kind in ('mount','unmount','clean','move','damage','repair','scrap','measure')), at timestamptz not null,
		person_id text not null references "user"(id), line_id int references line, note text, tension jsonb
	);
	create index stencil_tool_event_by_tool on stencil_tool_event (stencil_tool_id, at);
	alter table paste_jar_event add foreign key (stencil_tool_id) references stencil_tool;
	create table opening_rules (
		revision int primary key, rules jsonb not null, note text not null, created_by text references "user"(id), created_at timestamptz not null
	);
	create table transfer_fit (
		revision int primary key, model jsonb not null, fit jsonb not null, board_side_id int references board_side,
		created_by text references "user"(id), created_at timestamptz not null
	);

	create table print_recipe (
		id int generated always as identity primary key, board_side_id int not null references board_side, line_id int not null references line,
		revision int not null, status text not null check (status in ('draft','released','retired')), recipe jsonb not null, support jsonb not null,
		created_by text not null references "user"(id), created_at timestamptz not null, unique (board_side_id, line_id, revision)
	);
	alter table run add stencil_tool_id int references stencil_tool, add print_recipe_id int references print_recipe,
		add first_print_by text references "user"(id), add first_print_at timestamptz;
	alter table print add prints_since_topup int, add minutes_since_previous real, add alignment jsonb;
	create table misprint (
		id int generated always as identity primary key, pass_id int not null references panel_pass, at timestamptz not null,
		person_id text not null references "user"(id), approved_by text references "user"(id), decision text not null, facts jsonb not null, reasons jsonb not null
	);
	create index misprint_by_pass on misprint (pass_id);

	create table paste_limit (
		revision int primary key, limits jsonb not null, note text not null, created_by text references "user"(id),
		approved_by text references "user"(id), created_at timestamptz not null
	);
	alter table paste_summary add bridges int not null default 0, add limit_revision int, add offset_x_um real, add offset_y_um real;
	create table paste_extra (
		pass_id int not null, print_attempt int not null, inspection_attempt int not null, peak_height smallint[], bridged_pads int[],
		primary key (pass_id, print_attempt, inspection_attempt)
	);
	create table signature_case (
		id int generated always as identity primary key, run_id int not null references run, code text not null,
		opened_at timestamptz not null, opened_prints int not null, signature jsonb not null, latest jsonb not null,
		state text not null check (state in ('open','done','better','noBetter','dismissed')), reopened int not null default 0,
		done_by text references "user"(id), done_at timestamptz, done_prints int, done_note text, answer jsonb
	);
	create unique index signature_case_one on signature_case (run_id, code) where state in ('open','done','noBetter');
	create table inspection_mapping (
		unit text primary key, mapping jsonb not null, set_by text not null references "user"(id), set_at timestamptz not null
	)`;
	for (const statement of statements.split(/;\s*\n/)) await sql.raw(statement).execute(db);
}
