import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson, refuse } from '$lib/server/answer.ts';
import { clockNow, setClock } from '$lib/server/line/clock.ts';
import { plantInfo } from '$lib/server/line/plant.ts';

export async function GET() {
	return answer(async () => {
		const [{ nowMs, rate }, plant] = await Promise.all([clockNow(), plantInfo()]);
		return { now: new Date(nowMs).toISOString(), rate, timeZone: plant.timeZone };
	});
}

const body = z.object({ now: z.iso.datetime({ offset: true }), rate: z.number().min(1).max(60) });

/** Sets the plant clock; only a demonstration plant may leave real time. */
export async function PUT(event) {
	return answer(async () => {
		requireAction(event.locals, 'clock.set');
		const { now, rate } = await readJson(event, body);
		if (!(await plantInfo()).demo) refuse('clock', now, 'This is a real plant: its clock is real time.');
		await setClock(Date.parse(now), rate);
	});
}
