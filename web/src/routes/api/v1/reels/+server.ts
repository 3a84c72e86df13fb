import { z } from 'zod';
import { bodies } from '$lib/api/bodies.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { reelsNow } from '$lib/server/queries/reels.ts';
import { receiveReel } from '$lib/server/stations/place/reels.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Reels, sticks and trays as they are now: pieces, place, feeder, moisture clock.',
	query: z.object({ code: z.string().optional().describe('one of them') }),
	run: async ({ query }) => reelsNow(await plantNow(), query.code === undefined ? null : [query.code])
});

export const POST = route({
	who: 'reel.receive',
	does: 'Receives a reel, stick or tray by what its label says.',
	body: bodies.reel,
	example: {
		code: 'RL-20417',
		partNumber: 'R-0402-10K',
		kind: 'reel',
		makerLot: 'Q2634-118',
		dateCode: '2634',
		place: 'rack C3',
		pieces: 10000,
		tapeMm: 8,
		pitchMm: 2
	},
	status: 201,
	run: ({ actor, body }) => receiveReel(actor, body)
});
