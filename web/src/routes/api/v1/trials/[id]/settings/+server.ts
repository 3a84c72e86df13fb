import { nextSetting } from '$lib/server/stations/print/trials.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'trial.run',
	does: 'The next setting of a trial is set on the printer.',
	status: 201,
	run: ({ actor, id }) => nextSetting(actor, id)
});
