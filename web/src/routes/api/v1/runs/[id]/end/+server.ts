import { endRun } from '$lib/server/line/runs.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'run.end',
	does: 'Ends a run.',
	run: ({ actor, id }) => endRun(actor, id)
});
