import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { releaseRecipe } from '$lib/server/stations/oven/recipe.ts';
import { authorize } from '$lib/server/people/access.ts';

export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'recipe.release');
		const { sideId, lineId, pasteId, setC, beltCmPerMin, startedFrom } = await readJson(event, bodies.recipe);
		return releaseRecipe(actor, sideId, lineId, pasteId, { setC, beltCmPerMin }, startedFrom);
	}, 201);
}
