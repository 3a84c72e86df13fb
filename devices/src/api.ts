import type { Sent } from './message.ts';
import type { StationInfo, Work } from './work.ts';

const BATCH_BYTES = 4e6;

/** The public API as a machine's adapter sees it. */
export class MachineApi {
	readonly #queue: string[] = [];

	constructor(
		private readonly baseUrl: string,
		private readonly token: string
	) {}

	private async get<T>(path: string): Promise<T> {
		const response = await fetch(`${this.baseUrl}${path}`, { headers: { authorization: `Bearer ${this.token}` } });
		if (!response.ok) throw new Error(`GET ${path}: ${response.status} ${await response.text()}`);
		return (await response.json()) as T;
	}

	lines = () => this.get<{ id: number; name: string }[]>('/api/v1/lines');
	clock = () => this.get<{ now: string; rate: number }>('/api/v1/clock');
	work = (lineId: number, known: number | null) =>
		this.get<{ work: Work | { runId: number } | null; stations: StationInfo[] }>(
			`/api/v1/lines/${lineId}/work${known === null ? '' : `?known=${known}`}`
		);

	enqueue(message: Sent): void {
		this.#queue.push(JSON.stringify(message));
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
			if (!response.ok) throw new Error(`messages: ${response.status} ${(await response.text()).slice(0, 200)}`);
			this.#queue.splice(0, n);
			const receipt = (await response.json()) as { quarantined: { line: number; reason: string }[] };
			refused.push(...receipt.quarantined);
		}
		return refused;
	}
}
