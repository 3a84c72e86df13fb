import { bodies } from '$lib/api/bodies.ts';
import { washStep } from '$lib/server/stations/print/print-run.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'misprint.record',
	does: 'Notes that a step of washing a misprint was done; steps are done in their order.',
	body: bodies.washStep,
	example: { step: 0 },
	status: 201,
	run: ({ actor, body: { step }, id }) => washStep(actor, id, step)
});
