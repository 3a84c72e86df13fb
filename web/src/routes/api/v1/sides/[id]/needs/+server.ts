import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { setNeed } from '$lib/server/stations/print/joint-needs.ts';

/** Says what paste the joints of a part need; null takes it back. */
export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'openingRules.set');
		const { refDes, neededMm3, why } = await readJson(event, bodies.jointNeed);
		return setNeed(actor, idOf(event.params.id), refDes, neededMm3, why);
	}, 200);
}
