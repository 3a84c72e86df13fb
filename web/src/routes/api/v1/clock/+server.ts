import { bodies } from '$lib/api/bodies.ts';
import { authorize } from '$lib/server/people/access.ts';
import { answer, readJson, refuse } from '$lib/server/answer.ts';
import { clockNow, setClock } from '$lib/server/plant/clock.ts';
import { db } from '$lib/server/db/index.ts';
import { logAction } from '$lib/server/plant/log.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';

export async function GET() {
	return answer(async () => {
		const [{ nowMs, rate }, plant] = await Promise.all([clockNow(), plantInfo()]);
		return { now: new Date(nowMs).toISOString(), rate, timeZone: plant.timeZone };
	});
}

/** Sets the plant clock; only a demonstration plant may leave real time. */
export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'clock.set');
		const { now, rate } = await readJson(event, bodies.clock);
		if (!(await plantInfo()).demo) refuse('clock', now, 'This is a real plant: its clock is real time.');
		const before = await clockNow();
		await setClock(Date.parse(now), rate);
		// Going on is what a clock does; another rate, or a step back, is somebody's act.
		if (rate !== before.rate || Date.parse(now) < before.nowMs) await logAction(db, actor, 'clock.set', `${now}, ${rate} times as fast`);
	});
}
