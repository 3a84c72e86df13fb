import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { actOnCase } from '$lib/server/stations/paste-check/signatures.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Marks the action of a cause done, or lays the cause aside with a note. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'signature.act');
		const body = await readJson(event, bodies.signatureAction);
		return actOnCase(actor, idOf(event.params.id), body.action, body.note);
	}, 200);
}
