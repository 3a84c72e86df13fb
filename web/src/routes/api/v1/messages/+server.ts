import { requireMachine } from '$lib/server/people/access.ts';
import { answer, refuse } from '$lib/server/answer.ts';
import { ingest } from '$lib/server/ingest/ingest.ts';

const MOST_BYTES = 60e6;

/** Machine messages, one JSON object a line. */
export async function POST({ request, locals }) {
	return answer(async () => {
		requireMachine(locals);
		const bytes = Number(request.headers.get('content-length') ?? 0);
		if (bytes > MOST_BYTES)
			refuse('body', `${(bytes / 1e6).toFixed(0)} MB`, 'The batch is over 60 MB. Send it in parts; nothing of it was taken.');
		return ingest(new Uint8Array(await request.arrayBuffer()));
	});
}
