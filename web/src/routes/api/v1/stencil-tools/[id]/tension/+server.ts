import { bodies } from '$lib/api/bodies.ts';
import { measureTension } from '$lib/server/stations/print/stencil-tools.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'stencilTool.keep',
	does: 'Tension readings of a foil, with their verdict.',
	body: bodies.tension,
	example: { readings: [{ x: 30, y: 30, nPerCm: 38 }] },
	status: 201,
	run: ({ actor, body, id }) => measureTension(actor, id, body.readings)
});
