import { bodies } from '$lib/api/bodies.ts';
import { careForNozzle } from '$lib/server/stations/place/care.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'feeder.keep',
	does: 'Notes that a nozzle was cleaned: its picks are counted from here.',
	body: bodies.care,
	example: { note: 'cleaned, tip looked at' },
	run: ({ actor, body, id, part }) => careForNozzle(actor, id, part('name'), body.note)
});
