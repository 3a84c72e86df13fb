import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { cornerFiducials, panelGeometry } from '@keen-relay/core/artwork';
import { may, type Role } from '@keen-relay/core/judgement';
import { instantOf } from '@keen-relay/core/schedule';
import { MachineApi } from '@keen-relay/devices/api';
import { Line } from '@keen-relay/devices/line';
import type { Work } from '@keen-relay/devices/work';
import { BOARDS, type DemoBoard } from './boards.ts';
import { FIRST_LINE } from './factory-line.ts';

// Loads the invented factory into an empty plant, through the public API only: people, a line, boards from their files, what is
// released for them, two past days that the simulated line really builds, and a job that is running now.
const base = process.env.BASE_URL ?? 'http://127.0.0.1:4173';
const origin = process.env.ORIGIN ?? base;
const machines = new MachineApi(base, process.env.MACHINE_TOKEN ?? '');
/** A small factory for tests: fewer panels a shift, the same path. */
const SCALE = Number(process.env.DEMO_SCALE ?? 1);

const PEOPLE = (
	JSON.parse(readFileSync(new URL('../plant.json', import.meta.url), 'utf8')) as {
		people: { name: string; badge: string; pin: string; role: Role }[];
	}
).people;

class Person {
	#cookie = '';
	constructor(readonly badge: string) {}

	async signIn(pin: string): Promise<this> {
		const response = await fetch(`${base}/api/auth/sign-in/username`, {
			method: 'POST',
			headers: { 'content-type': 'application/json', origin },
			body: JSON.stringify({ username: this.badge, password: pin })
		});
		if (!response.ok) throw new Error(`${this.badge} cannot sign in: ${response.status}`);
		this.#cookie = response.headers
			.getSetCookie()
			.map((c) => c.split(';')[0])
			.join('; ');
		return this;
	}

	async send<T>(method: string, path: string, body?: object): Promise<T> {
		const form = body instanceof FormData;
		const response = await fetch(`${base}${path}`, {
			method,
			headers: { cookie: this.#cookie, origin, ...(form || !body ? {} : { 'content-type': 'application/json' }) },
			...(body ? { body: form ? body : JSON.stringify(body) } : {})
		});
		if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${(await response.text()).slice(0, 400)}`);
		return (await response.json()) as T;
	}
}

async function main(): Promise<void> {
	if ((await machines.lines()).length > 0) return;
	console.log('· loading the demo factory');
	const lead = await new Person('dessa').signIn('2004');
	// Two days ago, before the first shift of the history.
	const { now, timeZone } = await lead.send<{ now: string; timeZone: string }>('GET', '/api/v1/clock');
	const today = now.slice(0, 10);
	const at = (daysBack: number, time: string) => instantOf(addDays(today, -daysBack), time, timeZone);
	const setClock = (ms: number, rate = 1) => lead.send('PUT', '/api/v1/clock', { now: new Date(ms).toISOString(), rate });
	await setClock(at(2, '05:10'));

	// The first of them is the lead who came with the empty plant.
	for (const person of PEOPLE.slice(1)) await lead.send('POST', '/api/v1/people', person);
	const { id: lineId } = await lead.send<{ id: number }>('POST', '/api/v1/lines', FIRST_LINE);
	const engineer = await new Person('basil').signIn('2002');

	const boards = [];
	for (const board of BOARDS) boards.push({ board, ...(await releaseBoard(engineer, board, lineId)) });

	const history = [
		{ daysBack: 2, shift: 'Early', from: '06:40', board: 0, panels: 110, out: 'anwen', into: 'farid' },
		{ daysBack: 2, shift: 'Late', from: '14:30', board: 1, panels: 90, out: 'farid', into: 'corin' },
		{ daysBack: 1, shift: 'Early', from: '06:30', board: 0, panels: 120, out: 'anwen', into: 'farid' },
		{ daysBack: 1, shift: 'Late', from: '14:20', board: 1, panels: 100, out: 'farid', into: 'anwen' }
	];
	let jobNumber = 2411;
	for (const entry of history) {
		const panels = Math.max(25, Math.round(entry.panels * SCALE));
		const built = await build(
			lead,
			lineId,
			boards[entry.board]!.id,
			`J-${jobNumber++}`,
			panels,
			panels,
			at(entry.daysBack, entry.from),
			setClock
		);
		await lead.send('POST', `/api/v1/runs/${built.runId}/end`);
		const shift = { lineId, date: addDays(today, -entry.daysBack), shift: entry.shift };
		await lead.send('PUT', '/api/v1/hand-overs', { ...shift, note: NOTES[entry.board]! });
		for (const badge of [entry.out, entry.into]) await lead.send('POST', '/api/v1/hand-overs/sign', { ...shift, badge, pin: pinOf(badge) });
	}
	await engineer.send('POST', '/api/v1/jobs', { number: 'J-2416', boardRevisionId: boards[1]!.id, panels: 150 });
	const soFar = Math.max(25, Math.round(46 * SCALE));
	await build(lead, lineId, boards[0]!.id, 'J-2415', 400, soFar, at(0, '08:20'), setClock);
	const { now: reached } = await lead.send<{ now: string }>('GET', '/api/v1/clock');
	await setClock(Date.parse(reached), Number(process.env.DEMO_RATE ?? 5));
	console.log('· the demo factory is loaded');
}

const NOTES = [
	'Regulator U3 was re-taught after lunch; watch its offset.',
	'Slot of the 4k7 resistors ran low twice; a spare reel lies in rack C4.'
];

function pinOf(badge: string): string {
	const person = PEOPLE.find((p) => p.badge === badge);
	if (!person || !may(person.role, 'handOver.sign')) throw new Error(`${badge} may not sign a hand-over`);
	return person.pin;
}

async function releaseBoard(engineer: Person, board: DemoBoard, lineId: number): Promise<{ id: number; sideId: number }> {
	const form = new FormData();
	const dir = new URL(`../files/${board.key}/`, import.meta.url);
	const attach = (field: string, name: string) => form.append(field, new File([readFileSync(new URL(name, dir))], name));
	attach('paste', 'paste-top.gbr');
	attach('positions', 'positions.csv');
	attach('bom', board.style === 'inch, regions' ? 'parts-list.xlsx' : 'parts-list.csv');
	attach('outline', 'outline.gbr');
	const { thicknessMm, copperLayers, copperPct } = board.build;
	for (const [name, value] of Object.entries({
		name: board.name,
		customer: board.customer,
		revision: board.revision,
		side: 'top',
		thicknessMm,
		copperLayers,
		copperPct
	}))
		form.append(name, String(value));
	const kept = await engineer.send<{ id: number; sideId: number }>('POST', '/api/v1/boards', form);
	const { rows, columns, gapMm, railMm } = board.panel;
	const layout = { rows, columns, pitchXMm: board.widthMm + gapMm, pitchYMm: board.heightMm + gapMm, railMm, fiducials: [] };
	const fiducials = cornerFiducials(panelGeometry(board, layout), railMm);
	await engineer.send('PUT', `/api/v1/sides/${kept.sideId}/panel`, { ...layout, fiducials });
	await engineer.send('POST', '/api/v1/stencils', { sideId: kept.sideId, foilUm: board.foilUm, wall: 'laser' });
	await engineer.send('POST', '/api/v1/programs', { sideId: kept.sideId, lineId });
	await engineer.send('POST', '/api/v1/recipes', { sideId: kept.sideId, lineId, pasteId: 1, ...RECIPES[board.key]! });
	return kept;
}

/** Found with the page's own Tune on these boards, then smoothed by hand. */
const RECIPES: Record<string, { setC: number[]; beltCmPerMin: number }> = {
	'frost-sensor': { setC: [100, 125, 135, 150, 160, 180, 190, 220, 246, 248], beltCmPerMin: 63 },
	'tram-door': { setC: [100, 115, 150, 185, 195, 205, 210, 220, 250, 253], beltCmPerMin: 54 }
};

/** Enters a job, starts it at a plant time, and lets the simulated line build `panels` of it; its messages go in as a line's do. */
async function build(
	lead: Person,
	lineId: number,
	boardRevisionId: number,
	number: string,
	panels: number,
	buildNow: number,
	startMs: number,
	setClock: (ms: number) => Promise<unknown>
): Promise<{ runId: number }> {
	await setClock(startMs);
	const job = await lead.send<{ id: number }>('POST', '/api/v1/jobs', { number, boardRevisionId, panels });
	const run = await lead.send<{ id: number }>('POST', '/api/v1/runs', { jobId: job.id, lineId });
	const { work, stations } = await machines.work(lineId, null);
	if (!work || !('pads' in work)) throw new Error(`${number} has no work`);
	const part: Work = { ...work, panels: buildNow };
	const line = new Line(FIRST_LINE.name, stations, part, run.id, startMs, randomUUID(), (m) => machines.enqueue(m));
	while (line.finished < buildNow) line.runTo(line.nowMs + 60_000);
	await setClock(line.nowMs);
	const refused = await machines.flush();
	if (refused.length) throw new Error(`${number}: ${refused.length} messages refused, first: ${refused[0]!.reason}`);
	console.log(`· ${number}: ${buildNow} panels`);
	return { runId: run.id };
}

function addDays(date: string, days: number): string {
	return new Date(Date.parse(`${date}T12:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

await main();
