import { invalidate } from '$app/navigation';
import { navigating } from '$app/state';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Listens to the server's stream and reloads what depends on a topic. One stream a page; the browser reconnects by itself. */
export function listenLive(): () => void {
	const source = new EventSource('/api/v1/stream');
	let busy = false;
	const pending = new Set<string>();
	const drain = async () => {
		if (busy) return;
		busy = true;
		while (pending.size) {
			// Reloading data while somebody is on the way to another page would cancel the journey.
			while (navigating.to) await pause(50);
			const topics = [...pending];
			pending.clear();
			await Promise.all(topics.map((topic) => invalidate(`live:${topic}`)));
			// A panel PC must stay usable while a line runs fast.
			await pause(700);
		}
		busy = false;
	};
	source.onmessage = (event) => {
		pending.add(event.data as string);
		void drain();
	};
	return () => source.close();
}
