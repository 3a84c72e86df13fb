import { bodies } from '$lib/api/bodies.ts';
import { reportFault } from '$lib/server/stations/place/care.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'feeder.load',
	does: 'Notes a fault that somebody saw at a nozzle: it stands in its history and counts until it is cared for.',
	body: bodies.fault,
	example: { note: 'drops tall parts' },
	run: ({ actor, body, id, part }) => reportFault(actor, { stationId: id, nozzle: part('name') }, body.note)
});
