import type { Sent } from './message.ts';
import type { SensorInfo } from './sensors.ts';
import type { KnownWork, StationInfo, Work } from './work.ts';

const BATCH_BYTES = 4e6;

/** The server or its database is away, and says when to try again. */
export class Away extends Error {
	constructor(
		readonly retryAfterS: number,
		what: string
	) {
		super(what);
	}
}

/** The public API as a machine's adapter sees it. */
export class MachineApi {
	readonly #queue: string[] = [];
	/** What waits to be sent, bytes. */
	waitingBytes = 0;

	constructor(
		private readonly baseUrl: string,
		private readonly token: string
	) {}

	private async get<T>(path: string): Promise<T> {
		const response = await fetch(`${this.baseUrl}${path}`, { headers: { authorization: `Bearer ${this.token}` } });
		await refuse(response, `GET ${path}`);
		return (await response.json()) as T;
	}

	lines = () => this.get<{ id: number; name: string }[]>('/api/v1/lines');
	sensors = () => this.get<SensorInfo[]>('/api/v1/sensors');
	clock = () => this.get<{ now: string; rate: number }>('/api/v1/clock');
	work = (lineId: number, known: number | null) =>
		this.get<{ work: Work | KnownWork | null; stations: StationInfo[] }>(
			`/api/v1/lines/${lineId}/work${known === null ? '' : `?known=${known}`}`
		);

	enqueue(message: Sent): void {
		const text = JSON.stringify(message);
		this.#queue.push(text);
		this.waitingBytes += text.length;
	}

	/** Sends what waits, in order. What could not be sent stays; @returns lines that the server put in quarantine */
	async flush(): Promise<{ line: number; reason: string }[]> {
		const refused: { line: number; reason: string }[] = [];
		while (this.#queue.length) {
			let bytes = 0;
			let n = 0;
			while (n < this.#queue.length && bytes < BATCH_BYTES) bytes += this.#queue[n++]!.length;
			const response = await fetch(`${this.baseUrl}/api/v1/messages`, {
				method: 'POST',
				headers: { authorization: `Bearer ${this.token}`, 'content-type': 'application/x-ndjson' },
				body: this.#queue.slice(0, n).join('\n')
			});
			await refuse(response, 'messages');
			// Only what the server has taken leaves the queue: after an answer that was lost the same is sent again and counts once.
			this.#queue.splice(0, n);
			this.waitingBytes -= bytes;
			const receipt = (await response.json()) as { quarantined: { line: number; reason: string }[] };
			refused.push(...receipt.quarantined);
		}
		return refused;
	}
}

async function refuse(response: Response, what: string): Promise<void> {
	if (response.ok) return;
	const words = `${what}: ${response.status} ${(await response.text()).slice(0, 200)}`;
	if (response.status === 503) throw new Away(Number(response.headers.get('retry-after') ?? 5), words);
	throw new Error(words);
}
