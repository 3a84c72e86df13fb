import { bodies } from '$lib/api/bodies.ts';
import { keepFit } from '$lib/server/stations/print/opening-rules.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'transfer.fit',
	does: 'Fits the plant’s transfer curve to a run’s measured volumes and keeps it.',
	body: bodies.transferFit,
	example: { runId: 12 },
	status: 201,
	run: ({ actor, body }) => keepFit(actor, body.runId)
});
