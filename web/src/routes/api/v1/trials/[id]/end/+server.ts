import { answer, idOf } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { endTrial } from '$lib/server/stations/print/trials.ts';

/** Ends a trial, with all its settings or without. */
export async function POST(event) {
	return answer(async () => endTrial(await authorize(event, 'trial.run'), idOf(event.params.id)));
}
