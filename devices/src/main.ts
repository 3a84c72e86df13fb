import { randomUUID } from 'node:crypto';
import { MachineApi } from './api.ts';
import { Line } from './line.ts';
import type { Work } from './work.ts';

// The simulated line as a program: asks the server what to build and what time it is, steps the machines, sends what they report.
const api = new MachineApi(process.env.BASE_URL ?? 'http://127.0.0.1:4173', process.env.MACHINE_TOKEN ?? '');
const TICK_MS = 500;
/** Simulated in one tick at the most: a long pause is made up in steps. */
const MOST_A_TICK_MS = 10 * 60 * 1000;

interface Running {
	line: Line;
	runId: number;
	/** The run was ended by a person: what is on the belt still goes through. */
	draining: boolean;
}

const running = new Map<number, Running>();

async function tick(): Promise<void> {
	const clock = await api.clock();
	const nowMs = Date.parse(clock.now);
	for (const { id, name } of await api.lines()) {
		const known = running.get(id) ?? null;
		const { work, stations } = await api.work(id, known && !known.draining ? known.runId : null);
		let current = known;
		if (
			work &&
			(!current || (current.draining && current.line.empty) || (!current.draining && current.runId !== work.runId)) &&
			'pads' in work
		) {
			const line = new Line(name, stations, work as Work, work.runId + 1000 * (work as Work).printed, nowMs - 1000, randomUUID(), (m) =>
				api.enqueue(m)
			);
			current = { line, runId: work.runId, draining: false };
			running.set(id, current);
			console.log(`simulated line: ${name} builds ${(work as Work).job}`);
		}
		if (!current) continue;
		if (!work || work.runId !== current.runId) current.draining = true;
		const behind = nowMs - current.line.nowMs;
		current.line.runTo(behind > MOST_A_TICK_MS ? current.line.nowMs + MOST_A_TICK_MS : nowMs, !current.draining);
		if (current.draining && current.line.empty && !work) running.delete(id);
	}
	for (const { line, reason } of await api.flush()) console.error(`simulated line: message ${line} of the batch was put aside: ${reason}`);
}

let away = false;
for (;;) {
	try {
		await tick();
		if (away) console.log('simulated line: the server answers again');
		away = false;
	} catch (error) {
		if (!away) console.error(`simulated line: waiting for the server (${error instanceof Error ? error.message : String(error)})`);
		away = true;
	}
	await new Promise((resolve) => setTimeout(resolve, TICK_MS));
}
