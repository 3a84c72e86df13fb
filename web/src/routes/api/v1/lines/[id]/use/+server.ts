import { bodies } from '$lib/api/bodies.ts';
import { useLine } from '$lib/server/line/stations.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'line.create',
	does: 'Puts a line out of use with its stations, or back as it was; nothing that was built on it is lost.',
	body: bodies.use,
	example: { inUse: false },
	run: ({ actor, body, id }) => useLine(actor, id, body.inUse)
});
