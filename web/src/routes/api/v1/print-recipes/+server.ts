import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { releasePrintRecipe } from '$lib/server/stations/print/print-run.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Releases a print recipe; refused where a pin would crush a part or the blade is too short. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'printRecipe.release');
		const body = await readJson(event, bodies.printRecipe);
		return releasePrintRecipe(actor, body);
	}, 201);
}
