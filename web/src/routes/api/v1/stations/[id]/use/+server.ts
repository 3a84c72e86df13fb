import { bodies } from '$lib/api/bodies.ts';
import { useStation } from '$lib/server/line/stations.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'line.create',
	does: 'Puts a station out of use, or back at the end of its line; nothing that it reported is lost.',
	body: bodies.use,
	example: { inUse: false },
	run: ({ actor, body, id }) => useStation(actor, id, body.inUse)
});
