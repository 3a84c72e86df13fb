import { invalidate } from '$app/navigation';
import { navigating } from '$app/state';
import { forgetGeometry } from './geometry.ts';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const CHANNEL = 'keen-live';

interface News {
	/** '' for a beat: the server is there, and nothing changed. */
	topic: string;
	id: string;
}

/** A page that has heard nothing for so long does not know how old its news is. */
const LATE_MS = 5000;

/** Listens to the server's stream and reloads what depends on a topic. One tab of a browser holds the stream and tells the others; when it
 * closes the next one goes on from the last event. Where the browser has no locks (a page that is not served securely) each tab has its own.
 * @param onAway the database went away or came back
 * @param onLate nothing was heard for 5 s, or something is heard again
 * @returns stops listening
 */
export function listenLive(onAway: (away: boolean) => void, onLate: (late: boolean) => void): () => void {
	let heardAt = Date.now();
	let late = false;
	const heard = () => {
		heardAt = Date.now();
		if (late) onLate((late = false));
	};
	const watch = setInterval(() => {
		if (!late && Date.now() - heardAt > LATE_MS) onLate((late = true));
	}, 500);
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
		heard();
		if (topic === '') return;
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
		source.addEventListener('beat', (event) => {
			const news = { topic: '', id: (event as MessageEvent<string>).lastEventId };
			take(news);
			channel.postMessage(news);
		});
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
		clearInterval(watch);
		source?.close();
		channel.close();
		release();
	};
}
