import { bodies } from '$lib/api/bodies.ts';
import { takeFeederOut } from '$lib/server/stations/place/feeder-scans.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'feeder.load',
	does: 'A feeder is taken out of its slot.',
	body: bodies.feederOut,
	example: { stationId: 4, slot: 14 },
	run: ({ actor, body }) => takeFeederOut(actor, body)
});
