import { bodies } from '$lib/api/bodies.ts';
import { changeLine } from '$lib/server/line/stations.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'line.create',
	does: 'Corrects a line’s name, purpose, or the order in which boards travel; not while a run is on it.',
	body: bodies.lineChange,
	example: { name: 'Line 3' },
	run: ({ actor, body, id }) => changeLine(actor, id, body)
});
