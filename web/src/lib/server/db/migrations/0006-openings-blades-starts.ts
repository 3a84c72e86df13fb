import { type Kysely, sql } from 'kysely';

/** What a transfer curve was fitted to, by shape of opening, with its wall and paste; the blades that stand in the printers; when jobs are wanted. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table transfer_fit add column wall text, add column paste_id int references paste,
		add column groups jsonb not null default '[]'`.execute(db);
	await sql`update print_recipe set recipe = recipe || '{"forceBasis":"blade","beadMm":16}'`.execute(db);
	await sql`create table blade_fitting (
		id int generated always as identity primary key, line_id int not null references line, stroke text not null check (stroke in ('F','R')),
		code text not null, why text not null, nicked boolean not null,
		fitted_by text not null references "user"(id), fitted_at timestamptz not null
	)`.execute(db);
	await sql`create index blade_fitting_by_line on blade_fitting (line_id, stroke, fitted_at)`.execute(db);
	await sql`create table job_start (
		id int generated always as identity primary key, job_id int not null references job, line_id int not null references line,
		starts_at timestamptz, set_by text not null references "user"(id), set_at timestamptz not null
	)`.execute(db);
	await sql`create index job_start_by_line on job_start (line_id, job_id, id)`.execute(db);
}
