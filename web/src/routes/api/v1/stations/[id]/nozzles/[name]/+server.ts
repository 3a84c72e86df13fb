import { bodies } from '$lib/api/bodies.ts';
import { changeNozzle } from '$lib/server/stations/place/care.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'feeder.keep',
	does: 'Takes a nozzle out of service, with why, or back into it: a program that places with one that is out is not ready.',
	body: bodies.feederChange,
	example: { outOfService: 'tip bent' },
	run: ({ actor, body, id, part }) => changeNozzle(actor, id, part('name'), body.outOfService)
});
