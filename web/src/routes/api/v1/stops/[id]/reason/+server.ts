import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { explainStop } from '$lib/server/shift/stops.ts';

/** Says why a machine stood. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'stop.explain');
		return explainStop(actor, idOf(event.params.id), (await readJson(event, bodies.stopReason)).reason);
	});
}
