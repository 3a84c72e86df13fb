import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { learnFactors } from '$lib/server/stations/paste-check/unit.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Learns how a line's inspection unit reads volume against area and height, on the good panels of a run. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'unit.learn');
		const { lineId } = await readJson(event, bodies.unitFactors);
		return learnFactors(actor, lineId, idOf(event.params.id));
	}, 201);
}
