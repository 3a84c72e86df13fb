import { answer, idOf } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { nextSetting } from '$lib/server/stations/print/trials.ts';

/** The next setting of a trial is set on the printer. */
export async function POST(event) {
	return answer(async () => nextSetting(await authorize(event, 'trial.run'), idOf(event.params.id)), 201);
}
