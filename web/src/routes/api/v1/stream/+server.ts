import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { liveStream, refusesStream } from '$lib/server/plant/stream.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Topics as they change, a server-sent stream; resumes from Last-Event-ID.',
	query: z.object({ after: z.string().optional().describe('id of the last event, instead of the header') }),
	answers: 'text/event-stream',
	run: ({ event, query }) => {
		const person = event.locals.person?.id ?? `pc ${event.locals.stationPc?.id ?? ''}`;
		const why = refusesStream(person);
		if (why !== null) return json({ message: why }, { status: 503, headers: { 'retry-after': '10' } });
		return new Response(liveStream(person, event.request.headers.get('last-event-id') ?? query.after ?? null), {
			headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
		});
	}
});
