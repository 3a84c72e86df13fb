import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { releaseProgram } from '$lib/server/boards/release.ts';

const body = z.object({ sideId: z.int(), lineId: z.int() });

export async function POST(event) {
	return answer(async () => {
		const person = requireAction(event.locals, 'program.release');
		const { sideId, lineId } = await readJson(event, body);
		return releaseProgram(person.id, sideId, lineId);
	}, 201);
}
