import pg from 'pg';
import { hostNow, onHostMove, TOPICS } from '../db/index.ts';

/** Limits of the stream: they stand on the plant page. One person's pages never shut out another's. */
const STREAM_LIMITS = { perSecondAndTopic: 4, aPerson: 50, streams: 2000 } as const;
/** A page that has heard nothing for 5 s says so: the stream speaks at least this often. */
const BEAT_MS = 1500;

type Listener = (topic: string) => void;

const listeners = new Set<Listener>();
const streamsOf = new Map<string, number>();
/** When each topic changed last, as this process heard it, real ms. */
const changed = new Map<string, number>();
let listeningSince = Infinity;
let connecting = false;
let sent = 0;
let open = 0;
const RETRY_MS = 1000;

/** Hears what changed, as this process hears it. */
export function onNews(listener: Listener): void {
	listeners.add(listener);
	void connect();
}

function tell(topic: string): void {
	changed.set(topic, Date.now());
	for (const listener of listeners) listener(topic);
}

/** One listening connection a process, shared by every open page. A lost one is said as "away"; once back, every topic may have changed. */
async function connect(): Promise<void> {
	if (connecting) return;
	connecting = true;
	const client = new pg.Client({ connectionString: hostNow() });
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
	onHostMove(again);
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
			for (const topic of TOPICS) tell(topic);
		}
	} catch {
		again();
	}
}

export function streamStats() {
	return { open, sent, ...STREAM_LIMITS };
}

/** Why nobody more of that person's pages can listen; null where one can. */
export function refusesStream(person: string): string | null {
	if ((streamsOf.get(person) ?? 0) >= STREAM_LIMITS.aPerson) return `${STREAM_LIMITS.aPerson} pages of yours listen already. Close some.`;
	return open < STREAM_LIMITS.streams
		? null
		: `${STREAM_LIMITS.streams} pages listen already. Close some, or start another server process.`;
}

/** A server-sent stream of topics: each at most four times a second, the last one never lost, and a beat when nothing changes.
 * @param person whose pages these are: their streams are counted together
 * @param after id of the last event that was seen: what changed since is sent at once; where this process was not listening then, every topic is
 */
export function liveStream(person: string, after: string | null): ReadableStream<Uint8Array> {
	void connect();
	const encoder = new TextEncoder();
	const pending = new Set<string>();
	const listener: Listener = (topic) => pending.add(topic);
	let timer: NodeJS.Timeout;
	const count = (by: number) => {
		open += by;
		streamsOf.set(person, (streamsOf.get(person) ?? 0) + by);
		if (streamsOf.get(person) === 0) streamsOf.delete(person);
	};
	return new ReadableStream({
		start(controller) {
			count(1);
			let last = Date.now();
			const say = (text: string) => {
				last = Date.now();
				controller.enqueue(encoder.encode(text));
			};
			const write = (topic: string) => {
				sent++;
				say(`id: ${Date.now()}\ndata: ${topic}\n\n`);
			};
			say('retry: 2000\n\n');
			const seen = Number(after);
			if (after !== null && Number.isFinite(seen)) {
				if (seen < listeningSince) for (const topic of TOPICS) write(topic);
				else for (const [topic, at] of changed) if (at >= seen) write(topic);
			}
			listeners.add(listener);
			timer = setInterval(() => {
				for (const topic of pending) write(topic);
				pending.clear();
				if (Date.now() - last >= BEAT_MS) say(`event: beat\nid: ${Date.now()}\ndata: \n\n`);
			}, 1000 / STREAM_LIMITS.perSecondAndTopic);
		},
		cancel() {
			clearInterval(timer);
			listeners.delete(listener);
			count(-1);
		}
	});
}
