import { bodies } from '$lib/api/bodies.ts';
import { splitReel } from '$lib/server/stations/place/reels.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'reel.report',
	does: 'Takes pieces off a reel as one of its own: same part, lot and moisture clock.',
	body: bodies.reelSplit,
	example: { code: 'RL-20417-2', pieces: 500, place: 'rack C3' },
	status: 201,
	run: ({ actor, body, part }) => splitReel(actor, part('code'), body)
});
