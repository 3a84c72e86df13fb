import pg from 'pg';
import { env } from '$env/dynamic/private';

type Listener = (topic: string) => void;

const listeners = new Set<Listener>();
let connecting = false;
const RETRY_MS = 1000;

/** One listening connection a process, shared by every open page. */
async function connect(): Promise<void> {
	if (connecting) return;
	connecting = true;
	const client = new pg.Client({ connectionString: env.DATABASE_URL });
	const again = () => {
		connecting = false;
		setTimeout(connect, RETRY_MS).unref();
	};
	client.on('error', again);
	client.on('notification', ({ payload }) => listeners.forEach((listener) => listener(payload ?? '')));
	try {
		await client.connect();
		await client.query('listen live');
	} catch {
		again();
	}
}

const MOST_PER_SECOND = 4;

/** A server-sent stream of topics: each at most four times a second, the last one never lost. */
export function liveStream(): ReadableStream<Uint8Array> {
	void connect();
	const encoder = new TextEncoder();
	const pending = new Set<string>();
	let listener: Listener;
	let timer: NodeJS.Timeout;
	return new ReadableStream({
		start(controller) {
			controller.enqueue(encoder.encode('retry: 2000\n\n'));
			listener = (topic) => pending.add(topic);
			listeners.add(listener);
			let beats = 0;
			timer = setInterval(() => {
				for (const topic of pending) controller.enqueue(encoder.encode(`data: ${topic}\n\n`));
				pending.clear();
				// A comment now and then keeps proxies from closing a quiet stream.
				if (++beats % (15 * MOST_PER_SECOND) === 0) controller.enqueue(encoder.encode(': here\n\n'));
			}, 1000 / MOST_PER_SECOND);
		},
		cancel() {
			clearInterval(timer);
			listeners.delete(listener);
		}
	});
}
