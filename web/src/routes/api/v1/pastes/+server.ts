import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { definePaste } from '$lib/server/stations/paste/pastes.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Enters a paste, or changes what is known of it. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'paste.define');
		const body = await readJson(event, bodies.paste);
		return definePaste(actor, body);
	}, 201);
}
