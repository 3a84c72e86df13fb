import { bodies } from '$lib/api/bodies.ts';
import { careForFeeder } from '$lib/server/stations/place/care.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'feeder.keep',
	does: 'Notes that a feeder was cleaned and checked: its picks are counted from here.',
	body: bodies.care,
	example: { note: 'gear cleaned, pick position checked' },
	run: ({ actor, body, part }) => careForFeeder(actor, part('code'), body.note)
});
