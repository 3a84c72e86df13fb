import { readFileSync } from 'node:fs';
import { cornerFiducials, panelGeometry, type BoardPart } from '@keen-relay/core/artwork';
import { may } from '@keen-relay/core/people';
import { seededRandom } from '@keen-relay/core/numerics';
import { boardSpots, type Oven } from '@keen-relay/core/reflow';
import { STOP_REASONS, type StopReason } from '@keen-relay/core/schedule';
import { instantOf } from '@keen-relay/core/units';
import { MachineApi } from '@keen-relay/devices/api';
import { Line } from '@keen-relay/devices/line';
import { profilerLog } from '@keen-relay/devices/profiler';
import type { Sent } from '@keen-relay/devices/message';
import type { Trouble, Work } from '@keen-relay/devices/work';
import { BOARDS, type DemoBoard } from './boards.ts';
import { LINES } from './factory-line.ts';
import { loadSlots, receiveReel, type Labels } from './feeders.ts';
import { PEOPLE, Person } from './person.ts';
import { endJar, equip, fillFridge, OPEN_JARS, openJar, pastReadings, releasePrinting, shelve } from './print-cell.ts';
import { NOTES, pastRuns, RAW_DAYS, RECIPES, type PastRun } from './history.ts';

// Loads the invented factory into an empty plant, through the public API only: people, lines, boards from their files, what is released for
// them, five past days that the simulated lines really build, and jobs that are running now. Seeded, so it repeats in plant time.
const base = process.env.BASE_URL ?? 'http://127.0.0.1:4173';
const origin = process.env.ORIGIN ?? base;
const machines = new MachineApi(base, process.env.MACHINE_TOKEN ?? '');
/** A small factory for tests: fewer panels a shift, the same path. */
const SCALE = Number(process.env.DEMO_SCALE ?? 1);

/** Faults that the running lines have, as asked for. */
const FAULTS = JSON.parse(process.env.FAULTS ?? '[]') as { line: string; station: string; kind: Trouble['kind']; strength: number }[];

interface KeptBoard {
	board: DemoBoard;
	revisionId: number;
	sides: Partial<Record<'top' | 'bottom', number>>;
	/** Stencils in the library, by side: one for each line that runs it, lines may build the same at once. */
	stencils: Partial<Record<'top' | 'bottom', Map<number, number>>>;
	/** Their design. */
	designs: Partial<Record<'top' | 'bottom', number>>;
}

interface Plant {
	lead: Person;
	engineer: Person;
	technician: Person;
	lines: number[];
	boards: Map<string, KeptBoard>;
	today: string;
	timeZone: string;
	waterSolubleId: number;
}

/** A bead to start with, g. */
const BEAD_G = 200;

const count = (panels: number) => Math.max(6, Math.round(panels * SCALE));

async function main(): Promise<void> {
	if ((await machines.lines()).length > 0) return;
	const began = Date.now();
	console.log('· loading the demo factory');
	const lead = await new Person(base, origin, 'dessa').signIn('200468');
	const { now, timeZone } = await lead.send<{ now: string; timeZone: string }>('GET', '/api/v1/clock');
	const today = now.slice(0, 10);
	await setClock(lead, instantOf(addDays(today, -6), '05:10', timeZone));

	// The first of them is the lead who came with the empty plant.
	await setPlantUp(lead);
	await Promise.all(PEOPLE.slice(1).map(({ name, badge, pin, role }) => lead.send('POST', '/api/v1/people', { name, badge, pin, role })));
	const lines: number[] = [];
	for (const line of LINES) lines.push((await lead.send<{ id: number }>('POST', '/api/v1/lines', line)).id);
	const engineer = await new Person(base, origin, 'basil').signIn('2002');
	const technician = await new Person(base, origin, 'anwen').signIn('2001');
	const boards = new Map<string, KeptBoard>();
	const { waterSolubleId } = await equip(engineer);
	// Boards and stencils are numbered in order; the stencils of one are bought while the files of the next are read.
	let bought: Promise<void> = Promise.resolve();
	for (const board of BOARDS) {
		const kept = await keepBoard(engineer, board);
		boards.set(board.key, kept);
		bought = bought.then(() => buyStencils(engineer, technician, kept));
	}
	await bought;
	for (const kept of boards.values()) await buyCopies(technician, kept);
	// In one after the other: the log reads in this order.
	for (const [i, lineId] of lines.entries())
		for (const [stroke, code] of [
			['F', `B-${11 + 2 * i}`],
			['R', `B-${12 + 2 * i}`]
		])
			await technician.send('PUT', `/api/v1/lines/${lineId}/blades`, { stroke, code, why: 'new blades' });
	const plant: Plant = { lead, engineer, technician, lines, boards, today, timeZone, waterSolubleId };
	const [jobs] = await Promise.all([planJobs(plant), ...Object.keys(RECIPES).map((key) => releaseFor(plant, key))]);

	let closing: Promise<void> = Promise.resolve();
	const shifts = new Map<string, PastRun[]>();
	for (const run of jobs.keys()) {
		const key = `${run.daysBack} ${run.shift}`;
		shifts.set(key, [...(shifts.get(key) ?? []), run]);
	}
	for (const runs of shifts.values()) {
		const startMs = instantOf(addDays(today, -runs[0]!.daysBack), runs[0]!.from, timeZone);
		await setClock(lead, startMs);
		// One after the other, so that jobs and runs are numbered the same every time.
		const started = [];
		for (const run of runs) {
			const panels = count(run.panels);
			started.push(await startRun(plant, run, jobs.get(run)!, startMs, panels));
		}
		// What one line has built is sent while the next one builds.
		let endMs = startMs;
		let sent: Promise<void> = Promise.resolve();
		// One line after the other: they share the racks.
		const set = [];
		for (const run of started) set.push(await fetchWork(plant, run));
		for (const ready of set) {
			const built = build(ready);
			endMs = Math.max(endMs, built.endMs);
			// No message comes before its time.
			await setClock(lead, endMs);
			built.messages.forEach((message) => machines.enqueue(message));
			sent = sent.then(sendAll);
		}
		await sent;
		await Promise.all(
			started.map(async (one) => {
				const { runId } = one;
				await releaseFirstPrints(technician, runId);
				await lead.send('POST', `/api/v1/runs/${runId}/end`);
				await clearAway(plant, one);
			})
		);
		// The sheets are signed while the next shift begins, as people do.
		await closing;
		closing = closeShift(plant, runs, startMs);
	}
	await closing;
	await startToday(plant, FIRST_JOB + new Set(jobs.values()).size);
	// From here on: what runs was begun without.
	await firstBoards(lead, 'roll', 1);
	console.log(`· the demo factory is loaded, ${((Date.now() - began) / 1000).toFixed(1)} s`);
}

const setClock = (lead: Person, ms: number, rate = 1) => lead.send('PUT', '/api/v1/clock', { now: new Date(ms).toISOString(), rate });

async function createJob(engineer: Person, job: { number: string; boardRevisionId: number; panels: number }): Promise<Started['job']> {
	return { ...(await engineer.send<{ id: number }>('POST', '/api/v1/jobs', job)), number: job.number };
}

const FIRST_JOB = 2411;

/** The jobs of all past runs, numbered in the order in which they start; a second side goes on with the job that its line has begun. */
async function planJobs({ engineer, boards }: Plant): Promise<Map<PastRun, Started['job']>> {
	const jobs = new Map<PastRun, Started['job']>();
	const begun = new Map<string, Started['job']>();
	let number = FIRST_JOB;
	for (const run of pastRuns()) {
		const key = `${run.line} ${run.board}`;
		const { revisionId: boardRevisionId } = boards.get(run.board)!;
		const job = run.sameJob
			? begun.get(key)!
			: await createJob(engineer, { number: `J-${number++}`, boardRevisionId, panels: count(run.panels) });
		begun.set(key, job);
		jobs.set(run, job);
	}
	return jobs;
}

async function sendAll(): Promise<void> {
	const refused = await machines.flush();
	if (refused.length) throw new Error(`${refused.length} messages refused, first: ${refused[0]!.reason}`);
}

interface Started {
	run: Pick<PastRun, 'line' | 'board' | 'side' | 'troubles'> & { daysBack: number };
	job: { id: number; number: string };
	startMs: number;
	panels: number;
	runId: number;
	/** Its paste. */
	jar: string;
}

async function startRun(
	{ lead, boards, lines }: Plant,
	run: Started['run'],
	job: Started['job'],
	startMs: number,
	panels: number
): Promise<Started> {
	const body = { jobId: job.id, sideId: boards.get(run.board)!.sides[run.side]!, lineId: lines[run.line]! };
	const { id: runId } = await lead.send<{ id: number }>('POST', '/api/v1/runs', body);
	return { run, job, startMs, panels, runId, jar: run.daysBack === 0 ? OPEN_JARS[run.line]! : `H-${String(runId).padStart(4, '0')}` };
}

/** Name, shifts with their breaks, and the rules as they start. */
async function setPlantUp(lead: Person): Promise<void> {
	const { shifts, name, timeZone, revision } = await lead.send<{
		shifts: { name: string; from: string; to: string }[];
		name: string;
		timeZone: string;
		revision: number;
	}>('GET', '/api/v1/plant');
	const BREAKS: Record<string, { from: string; to: string }[]> = {
		Early: [{ from: '09:30', to: '09:50' }],
		Late: [{ from: '18:00', to: '18:20' }],
		Night: [{ from: '02:00', to: '02:20' }]
	};
	await lead.send('PUT', '/api/v1/plant', {
		name,
		timeZone,
		shifts: shifts.map((shift) => ({ ...shift, breaks: BREAKS[shift.name] ?? [] })),
		holidays: [],
		startedFrom: revision
	});
	// What is loaded of past days was released when all of it was known: it keeps no first boards.
	await firstBoards(lead, 'none', null);
	await lead.send('POST', '/api/v1/plant/steps', { step: 'rules' });
}

/** How the plant goes about first boards. */
async function firstBoards(lead: Person, policy: 'none' | 'roll', startedFrom: number | null): Promise<void> {
	await lead.send('PUT', '/api/v1/rules/firstBoard', { value: { policy }, startedFrom });
}

const RACKS = ['A', 'B', 'C', 'D'];

/** Labels of what people load, numbered on from these. */
function labels(feeder: number, reel: number, wet: boolean): Labels {
	const random = seededRandom(reel);
	return {
		feeder: () => `F-${String(feeder++).padStart(4, '0')}`,
		reel: () => `RL-${reel++}`,
		about: ({ tapeMm }) => ({
			makerLot: `Q26${20 + random.integer(20)}-${100 + random.integer(900)}`,
			dateCode: `26${20 + random.integer(20)}`,
			place: `rack ${RACKS[random.integer(RACKS.length)]}${1 + random.integer(8)}`,
			// Fine parts in large bodies take up water: their bags say so.
			...(wet && tapeMm >= 16 ? { moistureLevel: '3' } : {})
		})
	};
}
const PAST_LABELS = labels(1, 19_801, false);
const TODAYS_LABELS = labels(101, 20_401, true);

/** What is in the slots of a line stays there while it fits; the fast line was loaded afresh this morning, with a spare of each beside it. */
async function loadFeeders({ technician }: Plant, { run, panels }: Started, lineId: number): Promise<void> {
	// A few more than the run takes: some picks are lost.
	const margin = panels + 4;
	if (run.daysBack > 0 || run.line > 0) {
		await loadSlots(technician, lineId, PAST_LABELS, { panels: margin });
		return;
	}
	await loadSlots(technician, lineId, TODAYS_LABELS, { panels: margin, anew: true });
	const { work } = await machines.work(lineId, null);
	const slots = work && 'machines' in work ? work.machines.flatMap((m) => m.feeders) : [];
	for (const [i, { slot, partNumber, reelPieces, tapeMm = 8, pitchMm = 4 }] of slots.entries()) {
		const spare = await receiveReel(technician, TODAYS_LABELS, { slot, partNumber, reelPieces, tapeMm, pitchMm });
		if (i === 7) await technician.send('POST', `/api/v1/reels/${spare}/events`, { kind: 'move', place: 'kitting table' });
	}
}

/** The set-up of a run as people prove it: feeders, stencil and paste are scanned, then it is started. */
async function setUpRun(plant: Plant, started: Started): Promise<void> {
	const { run, runId, jar, startMs } = started;
	const { technician, lines } = plant;
	const lineId = lines[run.line]!;
	await loadFeeders(plant, started, lineId);
	await technician.send('POST', `/api/v1/stencil-tools/${stencilOf(plant, run)}/events`, { kind: 'mount', lineId });
	if (run.daysBack > 0) await openJar(technician, jar, startMs);
	await technician.send('POST', `/api/v1/jars/${jar}/events`, { kind: 'load_stencil', lineId, grams: BEAD_G });
	await technician.send('POST', `/api/v1/runs/${runId}/ready`);
}

/** After a run: the bead is off, its jar thrown away, the stencil out and washed. */
async function clearAway(plant: Plant, { run, jar }: Started): Promise<void> {
	const { technician, lines } = plant;
	const lineId = lines[run.line]!;
	const stencil = `/api/v1/stencil-tools/${stencilOf(plant, run)}/events`;
	await endJar(technician, jar, lineId);
	await technician.send('POST', stencil, { kind: 'unmount', lineId });
	await technician.send('POST', stencil, { kind: 'clean', note: 'after the run' });
}

/** Sets a run up and asks for what the line is to build, as its machines do. */
async function fetchWork(plant: Plant, started: Started) {
	const { lines } = plant;
	const { run, job, panels, jar } = started;
	const lineId = lines[run.line]!;
	await setUpRun(plant, started);
	const { work, stations } = await machines.work(lineId, null);
	if (!work || !('pads' in work)) throw new Error(`${job.number} has no work`);
	// What the lines before have taken is not sent yet: each line has its own jar.
	// The line of the past does not wait: its first prints are released when all of it is known.
	const part: Work = { ...work, panels, mayPrint: null, jar };
	return { ...started, stations, work: part };
}

/** Lets the simulated line build the panels of a run.
 * @returns its messages, and when the last panel was done
 */
function build({ run, startMs, panels, stations, work }: Awaited<ReturnType<typeof fetchWork>>): { messages: Sent[]; endMs: number } {
	// Runs are numbered as they come in; the seed goes by what they are, so that the same factory comes out every time.
	const seed = 100 * run.daysBack + 10 * Math.floor((startMs / 3_600_000) % 24) + run.line;
	const troubles = (run.troubles ?? []).map(({ fromMin, toMin, ...rest }): Trouble => {
		const at = (minutes: number) => startMs + minutes * 60_000 * Math.max(0.3, SCALE);
		return { ...rest, fromMs: at(fromMin), toMs: at(toMin) };
	});
	const messages: Sent[] = [];
	const line = new Line({
		name: LINES[run.line]!.name,
		stations,
		work,
		seed,
		startMs,
		bootId: bootIdOf(seed),
		out: (message) => messages.push(message),
		troubles,
		rawPaste: run.daysBack <= RAW_DAYS,
		// The unit of the fast line was studied this morning.
		...(run.daysBack === 0 && run.line === 0 ? { gauge: { panel: 4, times: 10 } } : {})
	});
	while (line.finished < panels) line.runTo(line.nowMs + 60_000);
	return { messages, endMs: line.nowMs };
}

/** Releases a run after its first prints; where one of them was not in order, one print more is looked at, as people do. */
async function releaseFirstPrints(technician: Person, runId: number): Promise<void> {
	for (let more = 0; ; more++)
		try {
			await technician.send('POST', `/api/v1/runs/${runId}/first-print`);
			return;
		} catch (error) {
			if (more === 6 || !(error instanceof Error) || !error.message.includes('Not released')) throw error;
			await technician.send('POST', `/api/v1/runs/${runId}/first-print/more`);
		}
}

/** The same run has the same boot id every time. */
function bootIdOf(seed: number): string {
	const random = seededRandom(70_000 + seed);
	const hex = (n: number) => Array.from({ length: n }, () => random.integer(16).toString(16)).join('');
	return `${hex(8)}-${hex(4)}-4${hex(3)}-8${hex(3)}-${hex(12)}`;
}

const SIGNERS = { Early: ['anwen', 'farid'], Late: ['farid', 'corin'], Night: ['corin', 'anwen'] } as const;

/** What people did at the end of a shift: most stops are explained, the hand-over is written and signed. */
async function closeShift({ lead, technician, lines, today }: Plant, runs: readonly PastRun[], startMs: number): Promise<void> {
	const { daysBack, shift } = runs[0]!;
	const { now } = await lead.send<{ now: string }>('GET', '/api/v1/clock');
	await Promise.all(
		runs.map(async ({ line, board }) => {
			const lineId = lines[line]!;
			const stops = await lead.send<{ id: number; machineReason: string | null }[]>(
				'GET',
				`/api/v1/lines/${lineId}/stops?from=${new Date(startMs).toISOString()}&to=${now}`
			);
			const random = seededRandom(daysBack * 10 + line);
			for (const stop of stops)
				if (random.chance(0.85))
					await technician.send('POST', `/api/v1/stops/${stop.id}/reason`, { reason: reasonFor(stop.machineReason) });
			// Sheets have been kept since yesterday.
			if (daysBack > 1) return;
			const sheet = { lineId, date: addDays(today, -daysBack), shift };
			await lead.send('PUT', '/api/v1/hand-overs', { ...sheet, note: NOTES[board]! });
			for (const badge of SIGNERS[shift]) await lead.send('POST', '/api/v1/hand-overs/sign', { ...sheet, badge, pin: pinOf(badge) });
		})
	);
}

function reasonFor(machineReason: string | null): StopReason {
	const known: [RegExp, StopReason][] = [
		[/pick/, 'pick'],
		[/jam/, 'jam'],
		[/paste|wipe/, 'paste']
	];
	return known.find(([pattern]) => pattern.test(machineReason ?? ''))?.[1] ?? (Object.keys(STOP_REASONS).at(-1) as StopReason);
}

/** Today: every line has a run that is going on, and a job waits. */
async function startToday(plant: Plant, firstNumber: number): Promise<void> {
	const { lead, engineer, boards, today, timeZone } = plant;
	const open = [
		{ line: 0, board: 'frost-sensor', panels: 400, soFar: 40, from: '08:20' },
		{ line: 1, board: 'mushroom-house', panels: 90, soFar: 14, from: '08:25' },
		{ line: 2, board: 'rowing-torque', panels: 24, soFar: 8, from: '08:30' }
	];
	let endMs = 0;
	const runIds: number[] = [];
	const morningMs = instantOf(today, '08:15', timeZone);
	await setClock(lead, morningMs);
	await fillFridge(plant.technician, morningMs, 1, plant.waterSolubleId);
	for (const [i, entry] of open.entries()) {
		const startMs = instantOf(today, entry.from, timeZone);
		await setClock(lead, startMs);
		const side = entry.board === 'mushroom-house' ? 'bottom' : 'top';
		const job = await createJob(engineer, {
			number: `J-${firstNumber + i}`,
			boardRevisionId: boards.get(entry.board)!.revisionId,
			panels: entry.panels
		});
		const soFar = Math.max(SCALE < 1 ? 6 : 0, Math.round(entry.soFar * SCALE));
		const troubles = FAULTS.filter((f) => f.line === LINES[entry.line]!.name).map(({ station, kind, strength }) => ({
			station,
			kind,
			strength,
			// The first prints were in order.
			fromMin: 1,
			toMin: 6000
		}));
		const started = await startRun(plant, { ...entry, side, daysBack: 0, troubles }, job, startMs, soFar);
		runIds.push(started.runId);
		const built = build(await fetchWork(plant, started));
		built.messages.forEach((message) => machines.enqueue(message));
		endMs = Math.max(endMs, built.endMs);
	}
	const boardRevisionId = boards.get('tram-door')!.revisionId;
	await createJob(engineer, { number: `J-${firstNumber + open.length}`, boardRevisionId, panels: 150 });
	pastReadings(morningMs, endMs, (message) => machines.enqueue(message));
	await setClock(lead, endMs);
	await sendAll();
	for (const runId of runIds) await releaseFirstPrints(plant.technician, runId);
	await setClock(lead, endMs, Number(process.env.DEMO_RATE ?? 5));
}

function pinOf(badge: string): string {
	const person = PEOPLE.find((p) => p.badge === badge);
	if (!person || !may(person.role, 'handOver.sign')) throw new Error(`${badge} may not sign a hand-over`);
	return person.pin;
}

/** Numbers on the frames of the stencils, in the order in which they were bought. */
let frames = 0;

/** Brings a board in from its files, side by side, and sets its panel. */
async function keepBoard(engineer: Person, board: DemoBoard): Promise<KeptBoard> {
	const sides: KeptBoard['sides'] = {};
	let revisionId = 0;
	for (const side of board.bottom ? (['top', 'bottom'] as const) : (['top'] as const)) {
		const form = new FormData();
		const dir = new URL(`../files/${board.key}/`, import.meta.url);
		const attach = (field: string, name: string) => form.append(field, new File([readFileSync(new URL(name, dir))], name));
		attach('paste', `paste-${side}.gbr`);
		attach('positions', 'positions.csv');
		attach('bom', board.style === 'inch, regions' ? 'parts-list.xlsx' : 'parts-list.csv');
		attach('outline', 'outline.gbr');
		if (board.bottom) {
			attach('netlist', 'netlist.ipc');
			attach('layers', `legend-${side}.gbr`);
		}
		const { thicknessMm, copperLayers, copperPct } = board.build;
		const { name, customer, revision } = board;
		const of = revisionId ? { revisionId } : { name, customer, revision };
		for (const [field, value] of Object.entries({ ...of, side, content: 'circuit', thicknessMm, copperLayers, copperPct }))
			form.append(field, String(value));
		const kept = await engineer.send<{ id: number; sideId: number }>('POST', '/api/v1/boards', form);
		revisionId = kept.id;
		sides[side] = kept.sideId;
	}
	const { rows, columns, gapMm, railMm } = board.panel;
	const layout = { rows, columns, pitchXMm: board.widthMm + gapMm, pitchYMm: board.heightMm + gapMm, railMm, fiducials: [] };
	const fiducials = cornerFiducials(panelGeometry(board, layout), railMm);
	await engineer.send('PUT', `/api/v1/sides/${sides.top}/panel`, { startedFrom: 1, ...layout, fiducials });
	return { board, revisionId, sides, stencils: {}, designs: {} };
}

/** Lines that run a side of a board, in their order. */
const linesOf = (board: string, side: string) =>
	Object.keys(RECIPES).flatMap((key) => (key.startsWith(`${board} ${side} `) ? [Number(key.split(' ')[2])] : []));

/** A stencil for each side, on the shelf of its number. */
async function buyStencils(engineer: Person, technician: Person, kept: KeptBoard): Promise<void> {
	const { board, sides, stencils, designs } = kept;
	for (const [name, sideId] of Object.entries(sides)) {
		const side = name as 'top' | 'bottom';
		const { id } = await engineer.send<{ id: number }>('POST', '/api/v1/stencils', { sideId, foilUm: board.foilUm, wall: 'laser' });
		designs[side] = id;
		const [first = 0] = linesOf(board.key, side);
		stencils[side] = new Map([[first, await buyStencil(technician, id, board)]]);
	}
}

const buyStencil = (technician: Person, designId: number, { foilUm }: DemoBoard) =>
	shelve(technician, `S-0${String(++frames).padStart(2, '0')}`, designId, foilUm);

/** One more for every other line that runs the same side. */
async function buyCopies(technician: Person, { board, stencils, designs }: KeptBoard): Promise<void> {
	for (const [side, byLine] of Object.entries(stencils))
		for (const line of linesOf(board.key, side))
			if (!byLine.has(line)) byLine.set(line, await buyStencil(technician, designs[side as 'top' | 'bottom']!, board));
}

const stencilOf = ({ boards }: Plant, run: Started['run']) => boards.get(run.board)!.stencils[run.side]!.get(run.line)!;

/** Program, recipe and a measured profile of a side on a line. */
async function releaseFor({ engineer, technician, lines, boards }: Plant, key: string): Promise<void> {
	const [name, side, line] = key.split(' ') as [string, 'top' | 'bottom', string];
	const lineId = lines[Number(line)]!;
	const { board, sides } = boards.get(name)!;
	const sideId = sides[side]!;
	const recipe = RECIPES[key]!;
	await engineer.send('POST', '/api/v1/programs', { sideId, lineId });
	const panel = panelGeometry(board, {
		...board.panel,
		pitchXMm: board.widthMm + board.panel.gapMm,
		pitchYMm: board.heightMm + board.panel.gapMm,
		fiducials: []
	});
	// A two-sided board carries its first side's parts below: its pins stand where they are free.
	const pins = supportGrid(panel, board.bottom ? 14 : 26);
	await releasePrinting(engineer, sideId, lineId, panel, pins);
	await engineer.send('POST', '/api/v1/recipes', { sideId, lineId, pasteId: 1, ...recipe });
	const geometry = await engineer.send<{ parts: BoardPart[] }>('GET', `/api/v1/sides/${sideId}/geometry`);
	const oven = LINES[Number(line)]!.stations.find((station) => station.role === 'oven')!.spec as { oven: Oven };
	const build = { thicknessMm: board.build.thicknessMm, copperLayers: board.build.copperLayers, copperShare: board.build.copperPct / 100 };
	const spots = boardSpots(build, geometry.parts, oven.oven);
	const log = profilerLog(
		oven.oven,
		recipe,
		spots.map(({ name: spot, at, tauS }, i) => ({ name: `TC${i + 1} ${spot} ${at}`, tauS })),
		sideId * 10 + lineId
	);
	const form = new FormData();
	form.append('log', new File([log], `profile-${name}-${side}.csv`));
	form.append('lineId', String(lineId));
	await technician.send('POST', `/api/v1/sides/${sideId}/profiles`, form);
}

/** Places for support pins, evenly over the panel: dense where some of them will stand under parts of the other side. */
function supportGrid(panel: { widthMm: number; heightMm: number }, everyMm: number): { x: number; y: number }[] {
	const along = (lengthMm: number) => {
		const n = Math.ceil(lengthMm / everyMm);
		return Array.from({ length: n }, (_, i) => (lengthMm * (i + 0.5)) / n);
	};
	return along(panel.heightMm).flatMap((y) => along(panel.widthMm).map((x) => ({ x, y })));
}

function addDays(date: string, days: number): string {
	return new Date(Date.parse(`${date}T12:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

await main();
