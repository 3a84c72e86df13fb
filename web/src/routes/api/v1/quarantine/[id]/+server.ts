import { bodies } from '$lib/api/bodies.ts';
import { dismissMessage, readmitMessage } from '$lib/server/ingest/quarantine.ts';
import { MESSAGE_EXAMPLE } from '$lib/server/stations/index.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'message.settle',
	does: 'Admits a message from quarantine, corrected.',
	body: bodies.readmit,
	example: { text: MESSAGE_EXAMPLE },
	run: ({ actor, body, id }) => readmitMessage(actor, id, body.text)
});

export const DELETE = route({
	who: 'message.settle',
	does: 'Leaves a message out; it stays stored.',
	run: ({ actor, id }) => dismissMessage(actor, id)
});
