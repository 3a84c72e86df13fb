import { liveStream } from '$lib/server/line/live.ts';

/** Topics as they change, for open pages. */
export function GET() {
	return new Response(liveStream(), {
		headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
	});
}
