import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { beginTrial } from '$lib/server/stations/print/trials.ts';

/** Begins a trial of force, speed and separation in a run. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'trial.run');
		const { ranges, panelsEach } = await readJson(event, bodies.trial);
		return beginTrial(actor, idOf(event.params.id), ranges, panelsEach);
	}, 201);
}
