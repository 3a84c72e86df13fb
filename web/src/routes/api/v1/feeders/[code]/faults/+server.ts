import { bodies } from '$lib/api/bodies.ts';
import { reportFault } from '$lib/server/stations/place/care.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'feeder.load',
	does: 'Notes a fault that somebody saw at a feeder: it stands in its history and counts until it is cared for.',
	body: bodies.fault,
	example: { note: 'cover tape tears' },
	run: ({ actor, body, part }) => reportFault(actor, { feeder: part('code') }, body.note)
});
