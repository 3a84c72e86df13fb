import { bodies } from '$lib/api/bodies.ts';
import { actOnCase } from '$lib/server/stations/paste-check/signatures.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'signature.act',
	does: 'Marks the action of a cause done, or lays the cause aside with a note.',
	body: bodies.signatureAction,
	example: { action: 'done', note: 'blades swapped' },
	run: ({ actor, body, id }) => actOnCase(actor, id, body.action, body.note)
});
