import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { releaseRecipe } from '$lib/server/boards/release.ts';

const body = z.object({
	sideId: z.int(),
	lineId: z.int(),
	pasteId: z.int(),
	setC: z.array(z.number()).max(20),
	beltCmPerMin: z.number()
});

export async function POST(event) {
	return answer(async () => {
		const person = requireAction(event.locals, 'recipe.release');
		const { sideId, lineId, pasteId, setC, beltCmPerMin } = await readJson(event, body);
		return releaseRecipe(person.id, sideId, lineId, pasteId, { setC, beltCmPerMin });
	}, 201);
}
