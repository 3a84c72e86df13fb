import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { startRun } from '$lib/server/line/runs.ts';

/** Starts one side of a job on a line. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'run.start');
		const { jobId, sideId, lineId } = await readJson(event, bodies.run);
		return startRun(actor, jobId, sideId, lineId);
	}, 201);
}
