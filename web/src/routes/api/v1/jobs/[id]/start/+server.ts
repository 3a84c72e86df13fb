import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { setStart } from '$lib/server/stations/paste/pull.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Says when a job is wanted on a line; null leaves it to the order of entry. */
export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'job.plan');
		const { lineId, startsAt } = await readJson(event, bodies.jobStart);
		return setStart(actor, idOf(event.params.id), lineId, startsAt === null ? null : new Date(startsAt));
	}, 200);
}
