import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { releaseStencil } from '$lib/server/boards/release.ts';

const body = z.object({
	sideId: z.int(),
	foilUm: z.number(),
	wall: z.enum(['laser', 'fineGrain', 'electropolished', 'nanoCoated'])
});

export async function POST(event) {
	return answer(async () => {
		const person = requireAction(event.locals, 'stencil.release');
		const { sideId, foilUm, wall } = await readJson(event, body);
		return releaseStencil(person.id, sideId, foilUm, wall);
	}, 201);
}
