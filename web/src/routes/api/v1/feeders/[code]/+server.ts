import { bodies } from '$lib/api/bodies.ts';
import { changeFeeder } from '$lib/server/stations/place/reels.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'feeder.keep',
	does: 'Takes a feeder out of service, with why, or back into it: scanning refuses one that is out.',
	body: bodies.feederChange,
	example: { outOfService: 'gear worn' },
	run: ({ actor, body, part }) => changeFeeder(actor, part('code'), body)
});
