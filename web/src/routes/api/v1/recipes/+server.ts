import { bodies } from '$lib/api/bodies.ts';
import { releaseRecipe } from '$lib/server/stations/oven/recipe.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'recipe.release',
	does: 'Releases an oven recipe; one that breaks the paste’s window is refused.',
	body: bodies.recipe,
	example: { sideId: 1, lineId: 1, pasteId: 1, setC: [105, 140, 160, 185, 215, 245, 245], beltCmPerMin: 44 },
	status: 201,
	run: ({ actor, body: { sideId, lineId, pasteId, setC, beltCmPerMin, startedFrom } }) =>
		releaseRecipe(actor, sideId, lineId, pasteId, { setC, beltCmPerMin }, startedFrom)
});
