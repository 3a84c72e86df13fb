import { type Kysely, sql } from 'kysely';

/** What a plant learns about its own print: thresholds of the causes, baselines, factors of its inspection units, trials, washing steps. */
export async function up(db: Kysely<unknown>): Promise<void> {
	const statements = `
	create table signature_threshold (
		revision int primary key, thresholds jsonb not null, note text not null, created_by text references "user"(id), created_at timestamptz not null
	);
	create table golden_baseline (
		id int generated always as identity primary key, board_side_id int not null references board_side, foil_um real not null,
		efficiency real[] not null, panels int not null, run_id int not null references run,
		created_by text not null references "user"(id), created_at timestamptz not null, withdrawn_at timestamptz
	);
	create index golden_baseline_by_side on golden_baseline (board_side_id, id);
	alter table signature_case add threshold_revision int;
	create table unit_factor (
		id int generated always as identity primary key, line_id int not null references line, pad_class text not null,
		factor real not null check (factor > 0), readings int not null, run_id int not null references run,
		created_by text not null references "user"(id), created_at timestamptz not null
	);
	create table print_trial (
		id int generated always as identity primary key, run_id int not null references run, ranges jsonb not null, settings jsonb not null,
		panels_each int not null check (panels_each between 2 and 20), steps jsonb not null default '[]',
		created_by text not null references "user"(id), created_at timestamptz not null, ended_at timestamptz
	);
	create unique index print_trial_one on print_trial (run_id) where ended_at is null;
	create table misprint_step (
		misprint_id int not null references misprint, step int not null, done_by text not null references "user"(id), done_at timestamptz not null,
		primary key (misprint_id, step)
	);
	alter table misprint add steps jsonb not null default '[]';
	alter table run add first_prints_more int not null default 0`;
	for (const statement of statements.split(/;\s*\n/)) await sql.raw(statement).execute(db);
}
