import { touchBadge } from '$lib/server/people/station-pc.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'stationPc',
	does: 'Somebody is still at the screen: the badge keeps naming its person.',
	run: ({ actor }) => touchBadge(actor.id)
});
