import { randomUUID } from 'node:crypto';
import { expect, request, test, type APIRequestContext } from './test.ts';
import fc from 'fast-check';
import pg from 'pg';

type Sent = Record<string, unknown>;

let machine: APIRequestContext;
let lead: APIRequestContext;
let sql: pg.Client;

test.beforeAll(async () => {
	const baseURL = process.env.BASE_URL!;
	machine = await request.newContext({ baseURL, extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}` } });
	lead = await request.newContext({ baseURL, extraHTTPHeaders: { origin: baseURL } });
	await lead.post('/api/auth/sign-in/username', { data: { username: 'dessa', password: '200468' } });
	sql = new pg.Client({ connectionString: process.env.DATABASE_URL });
	await sql.connect();
});
test.afterAll(() => sql.end());

const rows = async (text: string, ...values: unknown[]) => (await sql.query(text, values)).rows as Record<string, unknown>[];
const deliver = async (body: string | Buffer) => {
	const response = await machine.post('/api/v1/messages', { data: body, headers: { 'content-type': 'application/x-ndjson' } });
	expect(response.status(), await response.text().catch(() => '')).toBe(200);
	return (await response.json()) as {
		received: number;
		accepted: number;
		duplicates: number;
		quarantined: { line: number; reason: string }[];
	};
};
const clock = async () => Date.parse(((await (await lead.get('/api/v1/clock')).json()) as { now: string }).now);
/** A run that goes on, with how its panels look. */
const running = async () => {
	const [run] = await rows(
		`select r.id, l.name as line, r.board_side_id as side from run r join line l on l.id = r.line_id where r.ended_at is null order by r.id limit 1`
	);
	const stations = await rows(
		`select s.name, s.role from station s join line l on l.id = s.line_id where l.name = $1 order by position`,
		run!.line
	);
	const name = (role: string) => `${String(run!.line)}/${String(stations.find((s) => s.role === role)!.name)}`;
	return { id: Number(run!.id), name };
};
/** Each kind of message, whole, of one panel. */
const journey = (run: { id: number; name: (role: string) => string }, panel: string, fromMs: number): Sent[] => {
	const boots = new Map<string, string>();
	const say = (role: string, minute: number, type: string, fields: Sent) => {
		const source = run.name(role);
		if (!boots.has(source)) boots.set(source, randomUUID());
		return { source, bootId: boots.get(source), number: minute, at: new Date(fromMs + minute * 60_000).toISOString(), type, ...fields };
	};
	const visit = (minute: number, circuit: number, result: string, calls: object[] = []) => ({
		panel,
		circuit,
		startedAt: new Date(fromMs + minute * 60_000 - 5000).toISOString(),
		result,
		calls
	});
	return [
		say('print', 0, 'print', { runId: run.id, panel, stroke: 'F', printsSinceWipe: 2, cycleS: 19 }),
		say('print', 1, 'print', { runId: run.id, panel, printAttempt: 2, stroke: 'R', printsSinceWipe: 3, cycleS: 20 }),
		say('pasteCheck', 2, 'paste_summary', {
			panel,
			printAttempt: 2,
			classes: [{ padClass: 'chip', pads: 100, fails: 1, warnings: 2, meanVolumePct: 97, sdVolumePct: 5 }]
		}),
		say('place', 3, 'placement', { panel, cycleS: 44, lost: { '14': 1 } }),
		say('oven', 7, 'oven_pass', { panel, enteredAt: new Date(fromMs + 4 * 60_000).toISOString(), zoneC: [120, 240], beltCmPerMin: 70 }),
		say('optical', 8, 'optical_inspection', visit(8, 0, 'fail', [{ refDes: 'R1', code: 'skew' }])),
		say('optical', 9, 'optical_inspection', visit(9, 1, 'pass'))
	];
};
/** All that is on record of a panel, without ids and without its name. */
const facts = async (panel: string) => {
	const of = `from panel_pass p join panel n on n.id = p.panel_id`;
	return {
		passes: await rows(
			`select p.run_id, p.station_id, p.printed_at, p.finished_at, p.seen_at ${of} where n.serial = $1 order by p.printed_at`,
			panel
		),
		prints: await rows(
			`select p.run_id, x.print_attempt, x.printed_at, x.stroke, x.cycle_s ${of} join print x on x.pass_id = p.id where n.serial = $1 order by p.printed_at, 2`,
			panel
		),
		paste: await rows(
			`select p.run_id, x.print_attempt, x.inspection_attempt, x.measured_at, x.result, x.fails, x.mean_volume_pct ${of} join paste_summary x on x.pass_id = p.id where n.serial = $1 order by p.printed_at, 2, 3`,
			panel
		),
		readings: await rows(
			`select p.run_id, x.measured_at, x.board_side_id, sum(cardinality(x.volume))::int as pads ${of} join paste_reading x on x.pass_id = p.id
				where n.serial = $1 group by 1, 2, 3, p.printed_at order by p.printed_at, 2`,
			panel
		),
		placed: await rows(
			`select p.run_id, x.station_id, x.placed_at, x.lost ${of} join placement_report x on x.pass_id = p.id where n.serial = $1 order by p.printed_at, 2`,
			panel
		),
		oven: await rows(
			`select p.run_id, x.entered_at, x.left_at ${of} join oven_pass x on x.pass_id = p.id where n.serial = $1 order by p.printed_at, 2`,
			panel
		),
		visits: await rows(
			`select p.run_id, x.station_id, x.circuit, x.attempt, x.started_at, x.result, c.ref_des, c.code ${of} join inspection_visit x on x.pass_id = p.id
				left join inspection_call c on c.visit_id = x.id where n.serial = $1 order by p.printed_at, 2, 3, 4, 7`,
			panel
		)
	};
};
const shuffled = <T>(list: readonly T[], seed: number): T[] => {
	const order = fc.sample(fc.shuffledSubarray([...list], { minLength: list.length, maxLength: list.length }), { numRuns: 1, seed });
	return order[0]!;
};

test('whatever order a panel’s messages come in, however often, the same is on record', async () => {
	test.setTimeout(120_000);
	const run = await running();
	const fromMs = (await clock()) - 20 * 60_000;
	const want = `O-${Date.now() % 1e7}`;
	await deliver(
		journey(run, want, fromMs)
			.map((m) => JSON.stringify(m))
			.join('\n')
	);
	const expected = await facts(want);
	expect(expected.prints).toHaveLength(2);
	expect(expected.visits).toHaveLength(2);
	for (let seed = 1; seed <= 12; seed++) {
		const panel = `${want}-${seed}`;
		const all = shuffled(journey(run, panel, fromMs), seed);
		// In batches of two, with the one before sent once more.
		for (let i = 0; i < all.length; i += 2)
			await deliver([...all.slice(Math.max(0, i - 1), i + 2)].map((m) => JSON.stringify(m)).join('\n'));
		await deliver(all.map((m) => JSON.stringify(m)).join('\n'));
		expect(await facts(panel), `seed ${seed}`).toEqual(expected);
		expect(
			await rows(`select reason from message_quarantine where state = 'open' and raw like $1`, `%"${panel}"%`),
			`seed ${seed}`
		).toEqual([]);
	}
});

test('a panel that went through a line twice: whatever order its messages come in, each report is of the pass that it was made in, and a verdict that changed by it is told', async ({
	page
}) => {
	test.setTimeout(180_000);
	const run = await running();
	const fromMs = (await clock()) - 90 * 60_000;
	// Another run of the same job on the same line, through a thicker foil: the panel was washed and came back.
	const [again] = await rows(
		`insert into run (job_id, line_id, board_side_id, stencil_id, started_at, ended_at, started_by, placement_program_id, oven_recipe_id)
			select job_id, line_id, board_side_id, (select id from stencil order by foil_um desc limit 1), started_at, $2, started_by,
				placement_program_id, oven_recipe_id from run where id = $1 returning id`,
		run.id,
		new Date(fromMs)
	);
	const second = { ...run, id: Number(again!.id) };
	const [{ pads } = {}] = await rows(
		`select sum(cardinality(volume))::int as pads from paste_reading r join panel_pass p on p.id = r.pass_id where p.run_id = $1
			group by p.id, print_attempt, inspection_attempt limit 1`,
		run.id
	);
	const readings = (value: number) => Array.from({ length: Number(pads) }, () => value);
	const bootId = randomUUID();
	let number = 0;
	// 65 µm of paste are enough on the one foil and too low on the other.
	const measured = (panel: string, minute: number): Sent => ({
		...{ source: run.name('pasteCheck'), bootId, number: number++, at: new Date(fromMs + minute * 60_000).toISOString() },
		...{ type: 'paste_inspection', panel, volumePct: readings(97), heightUm: readings(65), areaPct: readings(98) },
		...{ offsetXUm: readings(0), offsetYUm: readings(0) }
	});
	const both = (panel: string) => [
		...[...journey(run, panel, fromMs), measured(panel, 10)],
		...[...journey(second, panel, fromMs + 40 * 60_000), measured(panel, 50)]
	];
	const want = `T-${Date.now() % 1e7}`;
	for (const m of both(want)) await deliver(JSON.stringify(m));
	const expected = await facts(want);
	expect(expected.passes.map((p) => p.run_id)).toEqual([run.id, second.id]);
	expect(expected.passes.map((p) => Number(p.seen_at) - fromMs)).toEqual([10 * 60_000, 50 * 60_000]);
	for (const kind of ['placed', 'oven'] as const) expect(expected[kind], kind).toHaveLength(2);
	expect(expected.paste.map((p) => [p.print_attempt, p.result])).toEqual([
		[1, 'pass'],
		[2, 'reject'],
		[1, 'reject'],
		[2, 'reject']
	]);
	expect(expected.readings.map((r) => r.pads)).toEqual([pads, pads]);
	expect(expected.visits).toHaveLength(4);
	for (let seed = 1; seed <= 24; seed++) {
		const panel = `${want}-${seed}`;
		const all = shuffled(both(panel), seed);
		const size = 1 + (seed % 4);
		for (let i = 0; i < all.length; i += size)
			await deliver(
				all
					.slice(Math.max(0, i - 1), i + size)
					.map((m) => JSON.stringify(m))
					.join('\n')
			);
		expect(await facts(panel), `seed ${seed}`).toEqual(expected);
		expect(
			await rows(`select reason from message_quarantine where state = 'open' and raw like $1`, `%"${panel}"%`),
			`seed ${seed}`
		).toEqual([]);
	}
	// The second print comes last: the inspection was shown on the first pass until then, and both passes go on saying so.
	const panel = `${want}-late`;
	const [firstPrint, secondPrint] = [journey(run, panel, fromMs)[0]!, journey(second, panel, fromMs + 40 * 60_000)[0]!];
	for (const m of [firstPrint, measured(panel, 50), secondPrint]) await deliver(JSON.stringify(m));
	await page.request.post('/api/auth/sign-in/username', { data: { username: 'dessa', password: '200468' } });
	await page.goto(`/panels/${panel}`);
	const told = page.getByLabel('What is known of it');
	await expect(told).toContainText('judged anew');
	await expect(told).toContainText(
		/arrived late, by \d\d:\d\d: Paste check of \d\d:\d\d is of this pass.+as pass \(0 of \d+ pads fail\).+it is reject/
	);
	await page.getByRole('tab', { name: 'Pass 1' }).click();
	await expect(told).toContainText(/was shown here as pass \(0 of \d+ pads fail\) until/);
});

test('a job that was ended goes on at its next serial with what is left of it; a panel that was finished and is printed again is said', async ({
	page
}) => {
	const run = await running();
	const [{ line_id: lineId, job_id: jobId, number: job, panels } = {}] = await rows(
		`select r.line_id, r.job_id, j.number, j.panels from run r join job j on j.id = r.job_id where r.id = $1`,
		run.id
	);
	const work = async () =>
		(
			(await (await machine.get(`/api/v1/lines/${String(lineId)}/work`)).json()) as {
				work: { nextSerial: number; panels: number; printed: number };
			}
		).work;
	const before = await work();
	const fromMs = (await clock()) - 30 * 60_000;
	// An earlier run of the same side, ended: one panel of it was finished.
	const [earlier] = await rows(
		`insert into run (job_id, line_id, board_side_id, stencil_id, started_at, ended_at, started_by, placement_program_id, oven_recipe_id)
			select job_id, line_id, board_side_id, stencil_id, started_at - interval '1 hour', $2, started_by, placement_program_id, oven_recipe_id
			from run where id = $1 returning id`,
		run.id,
		new Date(fromMs)
	);
	const serial = `${String(job)}-7001`;
	const [panel] = await rows(`insert into panel (serial, job_id) values ($1, $2) returning id`, serial, jobId);
	await rows(
		`insert into panel_pass (panel_id, run_id, printed_at, seen_at, finished_at) values ($1, $2, $3, $3, $3)`,
		panel!.id,
		earlier!.id,
		new Date(fromMs)
	);
	const after = await work();
	expect(after.nextSerial).toBe(7002);
	// A run that has printed all of it already has nothing left to take away.
	expect(after.panels).toBe(Math.max(after.printed, before.panels - 1));
	expect(after.panels).toBeLessThanOrEqual(Math.max(after.printed, Number(panels) - 1));

	await deliver(JSON.stringify(journey(run, serial, fromMs + 20 * 60_000)[0]));
	await page.request.post('/api/auth/sign-in/username', { data: { username: 'dessa', password: '200468' } });
	await page.goto(`/line/${String(lineId)}/print`);
	await expect(page.locator('main')).toContainText(`${serial} was finished before and is printed again`);
	// It goes on, and is no longer said.
	await deliver(JSON.stringify(journey(run, serial, fromMs + 20 * 60_000).at(-1)));
	await rows(`update panel_pass set finished_at = seen_at where panel_id = $1`, panel!.id);
	await rows(`delete from panel_pass where run_id = $1`, earlier!.id);
	await rows(`delete from run where id = $1`, earlier!.id);
});

test('stops are what the machine’s own times say, whatever order they are heard in; a reason stays with its stop', async () => {
	const fromMs = (await clock()) - 60 * 60_000;
	const minutes: [number, string, string?][] = [
		[0, 'running'],
		[5, 'stopped', 'jam'],
		[6, 'stopped', 'still a jam'],
		[9, 'running'],
		[12, 'stopped', 'no parts'],
		[13, 'idle'],
		[20, 'running'],
		[30, 'stopped', 'door']
	];
	const spec = { role: 'bench', name: 'Bench', spec: { cycleS: 30 } };
	const line = async (name: string) => {
		const { id } = (await (await lead.post('/api/v1/lines', { data: { name, purpose: 'finishing', stations: [spec] } })).json()) as {
			id: number;
		};
		return id;
	};
	const states = (name: string) => {
		const bootId = randomUUID();
		return minutes.map(([min, state, reason], number) =>
			JSON.stringify({
				source: `${name}/Bench`,
				bootId,
				number,
				at: new Date(fromMs + min * 60_000).toISOString(),
				type: 'state',
				state,
				reason
			})
		);
	};
	const seen = async (lineId: number) => ({
		stops: await rows(
			`select from_at, to_at, machine_reason from stop s join station t on t.id = s.station_id where t.line_id = $1 order by 1`,
			lineId
		),
		now: await rows(`select state, state_reason, state_at from station where line_id = $1`, lineId)
	});
	const stamp = Date.now() % 1e6;
	const first = await line(`In order ${stamp}`);
	await deliver(states(`In order ${stamp}`).join('\n'));
	const expected = await seen(first);
	expect(
		expected.stops.map((s) => [(Number(s.from_at) - fromMs) / 60_000, s.to_at && (Number(s.to_at) - fromMs) / 60_000, s.machine_reason])
	).toEqual([
		[5, 9, 'jam'],
		[12, 13, 'no parts'],
		[30, null, 'door']
	]);
	for (let seed = 1; seed <= 6; seed++) {
		const name = `Shuffled ${stamp} ${seed}`;
		const id = await line(name);
		for (const one of shuffled(states(name), seed)) await deliver(one);
		expect(await seen(id), `seed ${seed}`).toEqual(expected);
	}
	// Explained while the end was not heard yet: it is still the explanation of that stop.
	const name = `Explained ${stamp}`;
	const id = await line(name);
	const [, jam, , back] = states(name);
	await deliver(jam!);
	const [stop] = await rows(`select s.id from stop s join station t on t.id = s.station_id where t.line_id = $1`, id);
	expect((await lead.post(`/api/v1/stops/${String(stop!.id)}/reason`, { data: { reason: 'jam' } })).status()).toBe(200);
	await deliver(back!);
	await deliver(states(name)[0]!);
	const after = await rows(
		`select s.id, r.reason, s.to_at from stop s join station t on t.id = s.station_id left join stop_reason r on r.stop_id = s.id where t.line_id = $1`,
		id
	);
	expect(after).toEqual([{ id: stop!.id, reason: 'jam', to_at: new Date(fromMs + 9 * 60_000) }]);
});

test('one bad line is put aside alone, whatever is in it (fuzz over every kind)', async () => {
	test.setTimeout(180_000);
	const run = await running();
	const fromMs = (await clock()) - 30 * 60_000;
	const stamp = Date.now() % 1e7;
	// A NUL, halves of a surrogate pair, numbers past any column, things of another type.
	const poison = [
		'\u0000',
		'a\u0000b',
		'\ud800',
		'x\udfffy',
		1e308,
		-1e308,
		2 ** 53,
		2 ** 31,
		-1,
		0.5,
		'',
		' ',
		[],
		{},
		null,
		true,
		'é'.repeat(500),
		'9999-99-99',
		'0001-01-01T00:00:00Z',
		'999999-01-01T00:00:00Z'
	];
	let n = 0;
	const bad: string[] = [];
	for (const good of journey(run, `F-${stamp}`, fromMs))
		for (const key of Object.keys(good))
			for (const value of poison) bad.push(JSON.stringify({ ...good, panel: good.panel ? `F-${stamp}-${n++}` : undefined, [key]: value }));
	// In nested places too.
	for (const value of poison)
		bad.push(
			JSON.stringify({ ...journey(run, `F-${stamp}-${n++}`, fromMs)[5]!, calls: [{ refDes: value, code: 'skew' }] }),
			JSON.stringify({ ...journey(run, `F-${stamp}-${n++}`, fromMs)[3]!, lost: { '14': value } }),
			JSON.stringify({
				...journey(run, `F-${stamp}-${n++}`, fromMs)[2]!,
				classes: [{ padClass: 'chip', pads: value, fails: 0, warnings: 0, meanVolumePct: 1, sdVolumePct: 1 }]
			})
		);
	const good = journey(run, `F-${stamp}-good`, fromMs).map((m) => JSON.stringify(m));
	const receipt = await deliver([...bad.slice(0, bad.length / 2), ...good, ...bad.slice(bad.length / 2)].join('\n'));
	expect(receipt.received).toBe(bad.length + good.length);
	expect(receipt.accepted + receipt.duplicates + receipt.quarantined.length).toBe(receipt.received);
	expect((await facts(`F-${stamp}-good`)).visits).toHaveLength(2);
	// What was put aside is there as it came.
	const aside = await rows(`select count(*)::int as n from message_quarantine where raw like $1`, `%F-${stamp}%`);
	expect(aside[0]!.n).toBeGreaterThan(100);

	// Bytes that are no text at all, and a NUL in the open, are kept byte by byte.
	const bytes = Buffer.concat([Buffer.from([0xff, 0xfe, 0x41, 10]), Buffer.from(`{"a":"\0-${stamp}"}\n`), Buffer.from(good[0]!)]);
	const odd = await deliver(bytes);
	expect(odd).toMatchObject({ received: 3, duplicates: 1 });
	expect(odd.quarantined.map((q) => q.reason)).toEqual(['not UTF-8 text', 'not JSON']);
	const kept = await rows(`select verbatim from message_quarantine where verbatim is not null order by id desc limit 2`);
	expect(kept.map((k) => (k.verbatim as Buffer).toString('latin1'))).toEqual([`{"a":"\0-${stamp}"}`, '\u00ff\u00feA']);
});

test('eight thousand bad lines in one batch are put aside, and the good one among them is taken', async () => {
	test.setTimeout(120_000);
	const run = await running();
	const fromMs = (await clock()) - 30 * 60_000;
	const panel = `M-${Date.now() % 1e7}`;
	const lines = Array.from({ length: 8000 }, (_, i) => `{"no": ${i}}`);
	lines.splice(4000, 0, JSON.stringify(journey(run, panel, fromMs)[0]));
	const receipt = await deliver(lines.join('\n'));
	expect(receipt).toMatchObject({ received: 8001, accepted: 1, duplicates: 0 });
	expect(receipt.quarantined).toHaveLength(8000);
	expect((await facts(panel)).prints).toHaveLength(1);
});

test('two who edit at once: one is kept, the other is told what changed, and nothing is released twice', async () => {
	const one = (await (await lead.get('/api/v1/lines')).json()) as { id: number }[];
	// Rather a side that no stencil on the shelf is for: one on a line would no longer be of the design that is released.
	const [side] = await rows(
		`select board_side_id as id from stencil where status = 'released'
		order by exists (select from stencil_tool where stencil_id = stencil.id), board_side_id desc limit 1`
	);
	const [now] = await rows(`select revision from stencil where board_side_id = $1 and status = 'released'`, side!.id);
	expect(one.length).toBeGreaterThan(0);
	const release = (startedFrom: unknown) =>
		lead.post('/api/v1/stencils', { data: { sideId: side!.id, foilUm: 100, wall: 'laser', startedFrom } });
	for (let i = 0; i < 5; i++) {
		const [at] = await rows(`select revision from stencil where board_side_id = $1 and status = 'released'`, side!.id);
		const both = await Promise.all([release(at!.revision), release(at!.revision)]);
		expect(both.map((r) => r.status()).sort()).toEqual([201, 409]);
		const told = (await both.find((r) => r.status() === 409)!.json()) as { message: string; conflict: { now: number } };
		expect(told.message).toContain(
			`D. Quill kept revision ${Number(at!.revision) + 1} meanwhile; this edit started from ${String(at!.revision)}`
		);
		expect(told.conflict.now).toBe(Number(at!.revision) + 1);
		expect(await rows(`select count(*)::int as n from stencil where board_side_id = $1 and status = 'released'`, side!.id)).toEqual([
			{ n: 1 }
		]);
	}
	expect((await release(now!.revision)).status()).toBe(409);
	expect((await release(null)).status()).toBe(409);
});
