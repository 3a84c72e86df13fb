import { withdrawGolden } from '$lib/server/stations/paste-check/thresholds.ts';
import { route } from '$lib/server/route.ts';

export const DELETE = route({
	who: 'signature.tune',
	does: 'Withdraws the baseline of a side.',
	run: ({ actor, id }) => withdrawGolden(actor, id)
});
