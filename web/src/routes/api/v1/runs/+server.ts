import { bodies } from '$lib/api/bodies.ts';
import { startRun } from '$lib/server/line/runs.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'run.setUp',
	does: 'Begins the set-up of one side of a job on a line: it prints once that is proven and somebody starts it.',
	body: bodies.run,
	example: { jobId: 1, sideId: 1, lineId: 1 },
	status: 201,
	run: ({ actor, body: { jobId, sideId, lineId } }) => startRun(actor, jobId, sideId, lineId)
});
