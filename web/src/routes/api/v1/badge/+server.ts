import { bodies } from '$lib/api/bodies.ts';
import { clearBadge, showBadge } from '$lib/server/people/station-pc.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'stationPc',
	does: 'A badge names the person for what is done next.',
	body: bodies.badge,
	example: { badge: 'anwen' },
	run: ({ actor, body }) => showBadge(actor.id, body.badge)
});

export const DELETE = route({
	who: 'stationPc',
	does: 'Clears the badge.',
	run: ({ actor }) => clearBadge(actor.id)
});
