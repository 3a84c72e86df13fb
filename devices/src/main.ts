import { randomUUID } from 'node:crypto';
import { Away, MachineApi } from './api.ts';
import { Line } from './line.ts';
import { linesLeft } from './lines-left.ts';
import { Sensor } from './sensors.ts';
import type { KnownWork, StationInfo, Trouble, Work } from './work.ts';

// The simulated lines as a program: asks the server what to build and what time it is, steps the machines, sends what they report.
// While the server or its database is away the machines go on by the last known clock and keep their messages in order.
const api = new MachineApi(process.env.BASE_URL ?? 'http://127.0.0.1:4173', process.env.MACHINE_TOKEN ?? '');
/** Faults on request: which line and station, which kind, how strong (1 begins to show, 1.5 is plain), from how many minutes after a run's start. */
const FAULTS = JSON.parse(process.env.FAULTS ?? '[]') as {
	line: string;
	station: string;
	kind: Trouble['kind'];
	strength: number;
	fromMin?: number;
}[];
/** Lines without a crew: their placers load and splice by themselves. */
const isLeft = linesLeft(process.env.LEAVE ?? '');
const TICK_MS = 500;
/** Simulated in one tick at the most: a long pause is made up in steps. */
const MOST_A_TICK_MS = 10 * 60 * 1000;
/** With this many bytes waiting the printers hold: a machine's store is not endless, and nothing that waits is dropped. */
const HOLD_AT_BYTES = 40e6;

interface Running {
	line: Line;
	runId: number;
	/** The run was ended by a person: what is on the belt still goes through. */
	draining: boolean;
}

const running = new Map<number, Running>();
let clock: { plantMs: number; rate: number; readAt: number } | null = null;

const plantNow = () => (clock ? clock.plantMs + (Date.now() - clock.readAt) * clock.rate : 0);

async function readClock(): Promise<void> {
	const { now, rate } = await api.clock();
	clock = { plantMs: Date.parse(now), rate, readAt: Date.now() };
}

async function hearWork(id: number, name: string): Promise<void> {
	const known = running.get(id) ?? null;
	const { work, stations } = await api.work(id, known && !known.draining ? known.runId : null);
	if (known && work?.runId === known.runId) known.line.hear(work);
	// Panels of a run that has ended still go through, and obey.
	else known?.line.hearHolds(work?.held ?? []);
	if (known && (!work || work.runId !== known.runId || work.ended)) known.draining = true;
	if (known && !(known.draining && known.line.empty)) return;
	running.delete(id);
	if (work && work.runId !== known?.runId && isWhole(work))
		running.set(id, { line: build(name, stations, work), runId: work.runId, draining: work.ended });
}

const isWhole = (work: Work | KnownWork): work is Work => 'pads' in work;

function build(name: string, stations: StationInfo[], work: Work): Line {
	console.log(
		`simulated line: ${name} builds ${work.job}, ${work.side}${work.onLine.length ? `; ${work.onLine.length} panels stood on its belts` : ''}`
	);
	return new Line({
		name,
		stations,
		work,
		seed: work.runId + 1000 * work.printed,
		startMs: plantNow() - 1000,
		bootId: randomUUID(),
		out: (message) => api.enqueue(message),
		waitsForWord: true,
		servesItself: isLeft(name),
		troubles: FAULTS.filter((f) => f.line === name).map(({ station, kind, strength, fromMin = 0 }) => ({
			station,
			kind,
			strength,
			fromMs: plantNow() + fromMin * 60_000,
			toMs: Infinity
		}))
	});
}

const sensors = new Map<string, Sensor>();

/** Sensors report from now on; one that was added meanwhile joins in. */
async function hearSensors(): Promise<void> {
	for (const info of await api.sensors())
		if (!sensors.has(info.name))
			sensors.set(
				info.name,
				new Sensor(info, 900 + sensors.size, Math.ceil(plantNow() / 60_000) * 60_000, randomUUID(), (m) => api.enqueue(m))
			);
}

function step(): void {
	const nowMs = plantNow();
	const hold = api.waitingBytes > HOLD_AT_BYTES;
	for (const sensor of sensors.values()) sensor.runTo(nowMs);
	for (const { line, draining } of running.values()) line.runTo(Math.min(nowMs, line.nowMs + MOST_A_TICK_MS), !draining && !hold);
}

async function tick(): Promise<void> {
	await readClock();
	for (const { id, name } of await api.lines()) await hearWork(id, name);
	await hearSensors();
	step();
	const refused = await api.flush();
	for (const { line } of running.values()) line.sent();
	for (const { line, reason } of refused) console.error(`simulated line: message ${line} of the batch was put aside: ${reason}`);
}

let away = false;
for (;;) {
	let waitMs = TICK_MS;
	try {
		await tick();
		if (away) console.log('simulated line: the server answers again; what waited was sent in order');
		away = false;
	} catch (error) {
		if (!away) console.error(`simulated line: waiting for the server (${error instanceof Error ? error.message : String(error)})`);
		away = true;
		if (error instanceof Away) waitMs = Math.min(error.retryAfterS * 1000, 10_000);
		step();
	}
	await new Promise((resolve) => setTimeout(resolve, waitMs));
}
