import pg from 'pg';

// A year of one line, stored beside the demo: every run is a copy of one panel's records that the demo itself made, moved in time. What is filled
// is kept, run by run: a fill that was stopped goes on where it was.

const RUNS = 150;
const PANELS = 380;
const DAY_MS = 86_400_000;

/** Columns of a table that are written, without its own number and what the database computes. */
async function columnsOf(db: pg.Client, table: string): Promise<{ name: string; timed: boolean }[]> {
	const { rows } = await db.query<{ name: string; timed: boolean }>(
		`select column_name as name, udt_name = 'timestamptz' as timed from information_schema.columns
		where table_schema = 'public' and table_name = $1 and column_name <> 'id' and is_generated = 'NEVER' order by ordinal_position`,
		[table]
	);
	return rows;
}

/** Copies what the model panel has in a table to every panel of a run: times move with the panel.
 * @param own columns that differ, as SQL; `made` is the panel that is made
 */
async function copyToPanels(db: pg.Client, table: string, model: Model, own: Record<string, string> = {}): Promise<void> {
	const columns = await columnsOf(db, table);
	const value = ({ name, timed }: { name: string; timed: boolean }) =>
		own[name] ?? (name === 'pass_id' ? 'made.pass_id' : timed ? `made.printed_at + (t.${name} - $2::timestamptz)` : `t.${name}`);
	await db.query(
		`insert into ${table} (${columns.map((c) => c.name).join(', ')}) select ${columns.map(value).join(', ')} from ${table} t, made where t.pass_id = $1`,
		[model.passId, model.printedAt]
	);
}

interface Model {
	passId: number;
	runId: number;
	jobId: number;
	lineId: number;
	sideId: number;
	printedAt: Date;
}

/** The latest panel of line 1 that went through the whole line and has its pads kept. */
async function modelPanel(db: pg.Client): Promise<Model> {
	const { rows } = await db.query(
		`select p.id as "passId", r.id as "runId", r.job_id as "jobId", r.line_id as "lineId", r.board_side_id as "sideId", p.printed_at as "printedAt"
		from panel_pass p join run r on r.id = p.run_id
		where r.line_id = 1 and p.finished_at is not null and exists (select from oven_pass o where o.pass_id = p.id)
			and exists (select from paste_reading x where x.pass_id = p.id and x.board_side_id = r.board_side_id) and r.job_id not in (select id from job where number like 'Y-%')
		order by p.printed_at desc limit 1`
	);
	if (!rows[0]) throw new Error('The demo has no panel of line 1 that is finished and whose pads are kept.');
	return rows[0] as Model;
}

async function insertOne(db: pg.Client, table: string, from: number, own: Record<string, unknown>): Promise<number> {
	const columns = await columnsOf(db, table);
	const values: unknown[] = [from];
	const list = columns.map(({ name }) => (name in own ? `$${values.push(own[name])}` : `t.${name}`));
	const { rows } = await db.query<{ id: number }>(
		`insert into ${table} (${columns.map((c) => c.name).join(', ')}) select ${list.join(', ')} from ${table} t where t.id = $1 returning id`,
		values
	);
	return rows[0]!.id;
}

/** One run of the year: its job, its panels and all that machines reported of them. */
async function fillRun(db: pg.Client, model: Model, n: number): Promise<void> {
	// Evenly over the year before the demo's own days; a panel every 79 s.
	const start = new Date(model.printedAt.getTime() - 8 * DAY_MS - Math.round(((n + 1) * 357 * DAY_MS) / RUNS));
	const end = new Date(start.getTime() + PANELS * 79_000 + 900_000);
	const number = `Y-${String(n + 1).padStart(4, '0')}`;
	for (const at of [start, end]) {
		const [year, month] = [at.getUTCFullYear(), at.getUTCMonth()];
		const name = `paste_reading_${year}_${String(month + 1).padStart(2, '0')}`;
		const [from, to] = [new Date(Date.UTC(year, month, 1)), new Date(Date.UTC(year, month + 1, 1))].map((d) => d.toISOString());
		await db.query(`create table if not exists ${name} partition of paste_reading for values from ('${from}') to ('${to}')`);
	}
	const jobId = await insertOne(db, 'job', model.jobId, { number, panels: PANELS, created_at: start });
	const runId = await insertOne(db, 'run', model.runId, {
		job_id: jobId,
		started_at: start,
		ended_at: end,
		ended_by: (await db.query<{ id: string }>('select id from "user" limit 1')).rows[0]!.id,
		first_print_at: start,
		prints: PANELS
	});
	await db.query(
		`create temporary table made on commit drop as
		with panels as (
			insert into panel (job_id, serial) select $1, $2 || '-' || lpad(n::text, 4, '0') from generate_series(1, ${PANELS}) n returning id, serial
		), timed as (select id, $3::timestamptz + right(serial, 4)::int * interval '79 s' as printed_at from panels),
		passes as (
			insert into panel_pass (run_id, station_id, panel_id, printed_at, seen_at, finished_at)
			select $4, m.station_id, timed.id, timed.printed_at, timed.printed_at + (m.seen_at - m.printed_at), timed.printed_at + (m.finished_at - m.printed_at)
			from timed, panel_pass m where m.id = $5 returning id, printed_at
		) select id as pass_id, printed_at, row_number() over (order by printed_at) as n from passes`,
		[jobId, number, start, runId, model.passId]
	);
	await copyToPanels(db, 'print', model, {
		stroke: `case when made.n % 2 = 0 then 'F' else 'R' end`,
		prints_since_wipe: 'made.n % 8',
		prints_since_topup: 'made.n % 30'
	});
	for (const table of ['paste_summary', 'paste_reading', 'placement_report', 'oven_pass', 'inspection_visit'])
		await copyToPanels(db, table, model);
	await db.query(
		`insert into feeder_load (station_id, run_id, slot, part_number, reel, maker_lot, pieces, loaded_at)
		select station_id, $1, slot, part_number, reel || '-' || $2::text, maker_lot, pieces, $3 from feeder_load where run_id = $4`,
		[runId, number, start, model.runId]
	);
	await db.query(
		`insert into paste_class_day (board_side_id, day, pad_class, pads, fails, sum_pct, sum_squares_pct)
		select distinct on (board_side_id, pad_class) board_side_id, $1::date, pad_class, pads, fails, sum_pct, sum_squares_pct from paste_class_day
		where board_side_id = $2 order by board_side_id, pad_class, day desc on conflict do nothing`,
		[start, model.sideId]
	);
	// What each machine said it did, twice a panel.
	await db.query(
		`insert into machine_state (station_id, at, boot_id, number, state, reason)
		select s.id, made.printed_at + k * interval '30 s' + s.position * interval '1 s', md5($1 || s.id)::uuid, made.n * 2 + k,
			case k when 0 then 'running' else 'waiting' end, null
		from made, station s, generate_series(0, 1) k where s.line_id = $2`,
		[number, model.lineId]
	);
	await db.query(
		`insert into sensor_reading (sensor_id, at, temperature_c, rh_pct)
		select s.id, t, 23, 50 from sensor s, generate_series($1::timestamptz, $1::timestamptz + interval '2 days', interval '5 min') t
		where s.line_id is not distinct from null on conflict do nothing`,
		[start]
	);
}

/** Fills the year; what is there already stays. @returns panels and pad readings that are stored */
export async function fillYear(databaseUrl: string, say: (line: string) => void): Promise<{ panels: number; pads: number }> {
	const db = new pg.Client({ connectionString: databaseUrl });
	await db.connect();
	const model = await modelPanel(db);
	const { rows } = await db.query<{ n: number }>(`select count(*)::int as n from job where number like 'Y-%'`);
	for (let n = rows[0]!.n; n < RUNS; n++) {
		await db.query('begin');
		await fillRun(db, model, n);
		await db.query('commit');
		if ((n + 1) % 10 === 0) say(`${n + 1} of ${RUNS} runs are filled`);
	}
	await db.query('vacuum analyze');
	const stored = await db.query<{ panels: number; pads: number }>(
		`select (select count(*)::int from panel_pass) as panels, (select sum(cardinality(volume))::float8 from paste_reading) as pads`
	);
	await db.end();
	return stored.rows[0]!;
}
