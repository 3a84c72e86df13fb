import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { createJob } from '$lib/server/runs/start-run.ts';

const body = z.object({
	number: z.string().trim().min(1, 'give the job a number').max(30),
	boardRevisionId: z.int(),
	panels: z.int('a whole number of panels').min(1).max(200000)
});

export async function POST(event) {
	return answer(async () => createJob(requireAction(event.locals, 'job.create').id, await readJson(event, body)), 201);
}
