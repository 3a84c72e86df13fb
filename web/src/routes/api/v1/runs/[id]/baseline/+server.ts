import { keepGolden } from '$lib/server/stations/paste-check/thresholds.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'signature.tune',
	does: 'Approves a run’s pads as the baseline of its side: 12 panels that passed, or more.',
	status: 201,
	run: ({ actor, id }) => keepGolden(actor, id)
});
