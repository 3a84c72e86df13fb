import { bodies } from '$lib/api/bodies.ts';
import { explainStop } from '$lib/server/shift/stops.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'stop.explain',
	does: 'Says why a machine stood.',
	body: bodies.stopReason,
	example: { reason: 'pick' },
	run: ({ actor, body, id }) => explainStop(actor, id, body.reason)
});
