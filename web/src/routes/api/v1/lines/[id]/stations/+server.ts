import { bodies } from '$lib/api/bodies.ts';
import { addStation } from '$lib/server/line/stations.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'line.create',
	does: 'Enters one more station of a line.',
	body: bodies.newStation,
	example: { role: 'bench', name: 'Bench', spec: { cycleS: 60 } },
	status: 201,
	run: ({ actor, body, id }) => addStation(actor, id, body)
});
