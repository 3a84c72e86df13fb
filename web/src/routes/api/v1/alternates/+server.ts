import { bodies } from '$lib/api/bodies.ts';
import { setAlternate } from '$lib/server/boards/alternates.ts';
import { alternatesNow } from '$lib/server/queries/alternates.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Parts that may stand for others now, for one customer or for all.',
	run: () => alternatesNow()
});

export const POST = route({
	who: 'alternate.approve',
	does: 'Lets a part stand for another on one customer’s boards or on all, or takes it back. Another footprint is refused; what else differs comes with the answer.',
	body: bodies.alternate,
	example: { partNumber: 'R-10K', alternate: 'R-10K-B', customer: null, approved: true, note: 'released by engineering' },
	status: 201,
	run: ({ actor, body }) => setAlternate(actor, body)
});
