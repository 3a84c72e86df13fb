import { endTrial } from '$lib/server/stations/print/trials.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'trial.run',
	does: 'Ends a trial.',
	run: ({ actor, id }) => endTrial(actor, id)
});
