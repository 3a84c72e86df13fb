import { bodies } from '$lib/api/bodies.ts';
import { learnFactors } from '$lib/server/stations/paste-check/unit.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'unit.learn',
	does: 'Learns how the inspection unit of a line reads volume against area × height, on the good panels of a run.',
	body: bodies.unitFactors,
	example: { lineId: 1 },
	status: 201,
	run: ({ actor, body: { lineId }, id }) => learnFactors(actor, lineId, id)
});
