import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { startRun } from '$lib/server/runs/start-run.ts';

const body = z.object({ jobId: z.int(), lineId: z.int() });

export async function POST(event) {
	return answer(async () => {
		const person = requireAction(event.locals, 'run.start');
		const { jobId, lineId } = await readJson(event, body);
		return startRun(person.id, jobId, lineId);
	}, 201);
}
