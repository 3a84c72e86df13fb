import { bodies } from '$lib/api/bodies.ts';
import { reportReel } from '$lib/server/stations/place/reels.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'reel.report',
	also: ['reel.block'],
	does: 'Something happened to a reel: counted, blocked or freed, its bag opened, a dry cabinet, a bake, moved, used up.',
	body: bodies.reelEvent,
	example: { kind: 'count', pieces: 7400 },
	status: 201,
	run: async ({ actor, body, part, asking }) =>
		reportReel(body.kind === 'block' || body.kind === 'unblock' ? await asking('reel.block') : actor, part('code'), body)
});
