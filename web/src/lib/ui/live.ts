import { invalidate } from '$app/navigation';
import { navigating } from '$app/state';
import { forgetGeometry } from './geometry.ts';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const CHANNEL = 'keen-live';

interface News {
	topic: string;
	id: string;
}

/** Listens to the server's stream and reloads what depends on a topic. One tab of a browser holds the stream and tells the others; when it
 * closes the next one goes on from the last event. Where the browser has no locks (a page that is not served securely) each tab has its own.
 * @param onAway the database went away or came back
 * @returns stops listening
 */
export function listenLive(onAway: (away: boolean) => void): () => void {
	const pending = new Set<string>();
	let busy = false;
	let lastId = '';
	let stopped = false;
	let source: EventSource | null = null;
	let release: () => void = () => {};
	const channel = new BroadcastChannel(CHANNEL);

	const drain = async () => {
		if (busy) return;
		busy = true;
		while (pending.size && !stopped) {
			// Reloading data while somebody is on the way to another page would cancel the journey.
			while (navigating.to) await pause(50);
			const topics = [...pending];
			pending.clear();
			if (topics.includes('boards')) forgetGeometry();
			await Promise.all(topics.map((topic) => invalidate(`live:${topic}`)));
			// A panel PC must stay usable while a line runs fast.
			await pause(700);
		}
		busy = false;
	};
	const take = ({ topic, id }: News) => {
		if (id) lastId = id;
		if (topic === 'away' || topic === 'back') return onAway(topic === 'away');
		pending.add(topic);
		void drain();
	};
	const hold = () => {
		source = new EventSource(`/api/v1/stream${lastId ? `?after=${encodeURIComponent(lastId)}` : ''}`);
		source.onmessage = (event: MessageEvent<string>) => {
			const news = { topic: event.data, id: event.lastEventId };
			take(news);
			channel.postMessage(news);
		};
	};
	channel.onmessage = (event: MessageEvent<News>) => take(event.data);
	if ('locks' in navigator)
		void navigator.locks.request(CHANNEL, () => {
			if (stopped) return;
			hold();
			return new Promise<void>((resolve) => (release = resolve));
		});
	else hold();
	return () => {
		stopped = true;
		source?.close();
		channel.close();
		release();
	};
}
