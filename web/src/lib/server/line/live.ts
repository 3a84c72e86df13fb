import pg from 'pg';
import { env } from '$env/dynamic/private';

/** Limits of the stream: they stand on the plant page. */
export const STREAM_LIMITS = { perSecondAndTopic: 4, streams: 200 } as const;

type Listener = (topic: string) => void;

const listeners = new Set<Listener>();
/** When each topic changed last, as this process heard it, real ms. */
const changed = new Map<string, number>();
let listeningSince = Infinity;
let connecting = false;
let sent = 0;
const RETRY_MS = 1000;

function tell(topic: string): void {
	changed.set(topic, Date.now());
	for (const listener of listeners) listener(topic);
}

/** One listening connection a process, shared by every open page. A lost one is said as "away"; once back, every topic may have changed. */
async function connect(): Promise<void> {
	if (connecting) return;
	connecting = true;
	const client = new pg.Client({ connectionString: env.DATABASE_URL });
	let lost = false;
	const again = () => {
		if (lost) return;
		lost = true;
		connecting = false;
		listeningSince = Infinity;
		tell('away');
		client.end().catch(() => undefined);
		setTimeout(connect, RETRY_MS).unref();
	};
	client.on('error', again);
	client.on('end', again);
	client.on('notification', ({ payload }) => tell(payload ?? ''));
	try {
		await client.connect();
		await client.query('listen live');
		listeningSince = Date.now();
		if (changed.has('away')) {
			changed.delete('away');
			tell('back');
			for (const topic of [...changed.keys()]) if (topic !== 'back') tell(topic);
		}
	} catch {
		again();
	}
}

export function streamStats() {
	return { open: listeners.size, sent, ...STREAM_LIMITS };
}

export const hasRoom = () => listeners.size < STREAM_LIMITS.streams;

/** A server-sent stream of topics: each at most four times a second, the last one never lost.
 * @param after id of the last event that was seen: what changed since is sent at once; where this process was not listening then, all of it
 */
export function liveStream(after: string | null): ReadableStream<Uint8Array> {
	void connect();
	const encoder = new TextEncoder();
	const pending = new Set<string>();
	let listener: Listener;
	let timer: NodeJS.Timeout;
	return new ReadableStream({
		start(controller) {
			const write = (topic: string) => {
				sent++;
				controller.enqueue(encoder.encode(`id: ${Date.now()}\ndata: ${topic}\n\n`));
			};
			controller.enqueue(encoder.encode('retry: 2000\n\n'));
			const seen = Number(after);
			if (after !== null && Number.isFinite(seen)) for (const [topic, at] of changed) if (at >= seen || seen < listeningSince) write(topic);
			listener = (topic) => pending.add(topic);
			listeners.add(listener);
			let beats = 0;
			timer = setInterval(() => {
				for (const topic of pending) write(topic);
				pending.clear();
				// A comment now and then keeps proxies from closing a quiet stream.
				if (++beats % (15 * STREAM_LIMITS.perSecondAndTopic) === 0) controller.enqueue(encoder.encode(': here\n\n'));
			}, 1000 / STREAM_LIMITS.perSecondAndTopic);
		},
		cancel() {
			clearInterval(timer);
			listeners.delete(listener);
		}
	});
}
