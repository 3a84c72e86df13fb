import { refuse } from '$lib/server/answer.ts';
import { ingest } from '$lib/server/ingest/ingest.ts';
import { MESSAGE_EXAMPLE } from '$lib/server/stations/index.ts';
import { route } from '$lib/server/route.ts';

const MOST_BYTES = 60e6;

export const POST = route({
	who: 'machine',
	does: 'Machine messages, one JSON object a line, up to 60 MB; each counts once. 503 with Retry-After while the database is away.',
	contentType: 'application/x-ndjson',
	example: MESSAGE_EXAMPLE,
	run: async ({ event }) => {
		const bytes = Number(event.request.headers.get('content-length') ?? 0);
		if (bytes > MOST_BYTES)
			refuse('body', `${(bytes / 1e6).toFixed(0)} MB`, 'The batch is over 60 MB. Send it in parts; nothing of it was taken.');
		return ingest(new Uint8Array(await event.request.arrayBuffer()));
	}
});
