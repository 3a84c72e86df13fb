import { bodies } from '$lib/api/bodies.ts';
import { refuse } from '$lib/server/answer.ts';
import { clockNow, setClock } from '$lib/server/plant/clock.ts';
import { db } from '$lib/server/db/index.ts';
import { logAction } from '$lib/server/plant/log.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Plant time, its rate and time zone.',
	run: async () => {
		const [{ nowMs, rate }, plant] = await Promise.all([clockNow(), plantInfo()]);
		return { now: new Date(nowMs).toISOString(), rate, timeZone: plant.timeZone };
	}
});

export const PUT = route({
	who: 'clock.set',
	does: 'Sets the plant clock of a demonstration plant.',
	body: bodies.clock,
	example: { now: '2026-11-25T09:00:00Z', rate: 5 },
	run: async ({ actor, body: { now, rate } }) => {
		if (!(await plantInfo()).demo) refuse('clock', now, 'This is a real plant: its clock is real time.');
		const before = await clockNow();
		await setClock(Date.parse(now), rate);
		// Going on is what a clock does; another rate, or a step back, is somebody's act.
		if (rate !== before.rate || Date.parse(now) < before.nowMs) await logAction(db, actor, 'clock.set', `${now}, ${rate} times as fast`);
	}
});
