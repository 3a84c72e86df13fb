import { bodies } from '$lib/api/bodies.ts';
import { feedersNow } from '$lib/server/queries/reels.ts';
import { keepFeeder } from '$lib/server/stations/place/reels.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Feeders with the tape that they take, the reel in them, and where they stand.',
	run: feedersNow
});

export const POST = route({
	who: 'feeder.keep',
	does: 'Keeps a feeder as a thing of its own, with the tape that it takes.',
	body: bodies.feeder,
	example: { code: 'F-0114', tapeMm: 8, pitchMm: 4 },
	status: 201,
	run: ({ actor, body }) => keepFeeder(actor, body)
});
