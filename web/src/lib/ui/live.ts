import { invalidate } from '$app/navigation';

/** Listens to the server's stream and reloads what depends on a topic. One stream a page; the browser reconnects by itself. */
export function listenLive(): () => void {
	const source = new EventSource('/api/v1/stream');
	let busy = false;
	const pending = new Set<string>();
	const drain = async () => {
		if (busy) return;
		busy = true;
		while (pending.size) {
			const topics = [...pending];
			pending.clear();
			await Promise.all(topics.map((topic) => invalidate(`live:${topic}`)));
			// A panel PC must stay usable while a line runs fast.
			await new Promise((resolve) => setTimeout(resolve, 700));
		}
		busy = false;
	};
	source.onmessage = (event) => {
		pending.add(event.data as string);
		void drain();
	};
	return () => source.close();
}
