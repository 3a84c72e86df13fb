import { requireMachine } from '$lib/server/people/access.ts';
import { answer } from '$lib/server/answer.ts';
import { ingest } from '$lib/server/ingest/ingest.ts';

/** Machine messages, one JSON object a line. */
export async function POST({ request, locals }) {
	return answer(async () => {
		requireMachine(locals);
		return ingest(await request.text());
	});
}
