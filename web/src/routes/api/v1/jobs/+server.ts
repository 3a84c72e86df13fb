import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { createJob } from '$lib/server/line/runs.ts';

export async function POST(event) {
	return answer(async () => createJob(await authorize(event, 'job.create'), await readJson(event, bodies.job)), 201);
}
