import { json } from '@sveltejs/kit';
import { hasRoom, liveStream, STREAM_LIMITS } from '$lib/server/line/live.ts';

/** Topics as they change, for open pages; resumes from Last-Event-ID, or from ?after= in another tab. */
export function GET({ request, url }) {
	if (!hasRoom())
		return json(
			{ message: `${STREAM_LIMITS.streams} streams are open already. Close some pages, or start another server process.` },
			{ status: 503, headers: { 'retry-after': '10' } }
		);
	return new Response(liveStream(request.headers.get('last-event-id') ?? url.searchParams.get('after')), {
		headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
	});
}
