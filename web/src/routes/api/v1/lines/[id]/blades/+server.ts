import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { bladesOf, fitBlade } from '$lib/server/stations/print/blades.ts';

/** The blades in a line's printer, with their strokes. */
export async function GET({ params }) {
	return answer(() => bladesOf(idOf(params.id)));
}

/** Says which blade stands in a holder now. */
export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'blade.fit');
		return fitBlade(actor, idOf(event.params.id), await readJson(event, bodies.blade));
	}, 200);
}
