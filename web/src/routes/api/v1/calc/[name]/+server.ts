import { error } from '@sveltejs/kit';
import { calculationByName } from '$lib/api/calc/index.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { requireAnybody } from '$lib/server/people/access.ts';

/** One calculation of the core: plain JSON in and out. */
export async function POST(event) {
	return answer(async () => {
		requireAnybody(event.locals);
		const calculation = calculationByName.get(event.params.name);
		if (!calculation) error(404, `There is no calculation "${event.params.name}". GET /api/v1/calc lists them.`);
		return calculation.run((await readJson(event, calculation.input)) as never);
	});
}
