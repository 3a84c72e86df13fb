import { json } from '@sveltejs/kit';
import { liveStream, refusesStream } from '$lib/server/plant/stream.ts';

/** Topics as they change, for open pages; resumes from Last-Event-ID, or from ?after= in another tab. */
export function GET({ request, url, locals }) {
	const person = locals.person?.id ?? `pc ${locals.stationPc?.id ?? ''}`;
	const why = refusesStream(person);
	if (why !== null) return json({ message: why }, { status: 503, headers: { 'retry-after': '10' } });
	return new Response(liveStream(person, request.headers.get('last-event-id') ?? url.searchParams.get('after')), {
		headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
	});
}
