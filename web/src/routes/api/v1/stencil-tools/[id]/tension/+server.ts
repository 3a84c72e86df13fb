import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { measureTension } from '$lib/server/stations/print/stencil-tools.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Tension readings of a stencil, with their verdict. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'stencilTool.keep');
		const body = await readJson(event, bodies.tension);
		return measureTension(actor, idOf(event.params.id), body.readings);
	}, 201);
}
