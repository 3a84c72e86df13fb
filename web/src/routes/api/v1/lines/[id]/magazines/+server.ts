import { bodies } from '$lib/api/bodies.ts';
import { magazinesOf } from '$lib/server/queries/magazines.ts';
import { setMagazine } from '$lib/server/stations/place/magazines.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'What stands at the ends of a line as it was said last, and the panels that have moved since.',
	run: async ({ id }) => ({ magazines: await magazinesOf(id) })
});

export const POST = route({
	who: 'feeder.load',
	does: 'Says how many panels the loader of a line holds now, or how many its unloader has room for: when it is empty or full is counted from here.',
	body: bodies.magazine,
	example: { end: 'loader', panels: 50 },
	run: ({ actor, body, id }) => setMagazine(actor, id, body)
});
