import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { washStep } from '$lib/server/stations/print/print-run.ts';

/** Notes that a step of washing a misprint was done. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'misprint.record');
		const { step } = await readJson(event, bodies.washStep);
		return washStep(actor, idOf(event.params.id), step);
	}, 201);
}
