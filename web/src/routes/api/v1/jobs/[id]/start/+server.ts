import { bodies } from '$lib/api/bodies.ts';
import { setStart } from '$lib/server/stations/paste/pull.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'job.plan',
	does: 'Says when a job is wanted on a line: the fridge plan goes by it. Null leaves it to the order of entry.',
	body: bodies.jobStart,
	example: { lineId: 1, startsAt: '2026-11-26T14:00:00Z' },
	run: ({ actor, body: { lineId, startsAt }, id }) => setStart(actor, id, lineId, startsAt === null ? null : new Date(startsAt))
});
