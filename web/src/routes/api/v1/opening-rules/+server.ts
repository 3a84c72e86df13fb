import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { keepRules } from '$lib/server/stations/print/opening-rules.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Keeps a new revision of the rules for openings. */
export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'openingRules.set');
		const body = await readJson(event, bodies.openingRules);
		return keepRules(actor, body.rules, body.note, body.startedFrom);
	}, 200);
}
