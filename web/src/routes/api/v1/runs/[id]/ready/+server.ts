import { startPrinting } from '$lib/server/line/runs.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'run.start',
	does: 'Lets the printer of a run begin. Refused with every point of its set-up that is neither proven nor overridden.',
	run: ({ actor, id }) => startPrinting(actor, id)
});
