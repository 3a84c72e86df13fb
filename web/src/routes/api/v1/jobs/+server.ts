import { bodies } from '$lib/api/bodies.ts';
import { createJob } from '$lib/server/line/runs.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'job.create',
	does: 'Enters a job.',
	body: bodies.job,
	example: { number: 'J-2500', boardRevisionId: 1, panels: 120 },
	status: 201,
	run: ({ actor, body }) => createJob(actor, body)
});
