import { plantNow } from '$lib/server/plant/clock.ts';
import { currentRun } from '$lib/server/queries/runs.ts';
import { readinessOf } from '$lib/server/stations/print/ready.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'How the set-up of the run of a line stands: every point with its mark, why, and what to do next; null without a run.',
	run: async ({ id }) => {
		const run = await currentRun(id);
		return run && { runId: run.id, job: run.number, held: run.held, ...(await readinessOf(run, id, await plantNow())) };
	}
});
