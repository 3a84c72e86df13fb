import { createHash } from 'node:crypto';
/** Wrong PINs are answered later and later; nothing is ever locked, so nobody can lock a colleague out. */
const FREE_TRIES = 3;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 8000;
/** After this long without a try everything is forgotten. */
const FORGET_MS = 5 * 60_000;
const MOST_KEPT = 5000;

/** A key of bounded size, whatever somebody typed as a badge. */
const shortKey = (of: string) => (of.length <= 100 ? of : createHash('sha256').update(of).digest('base64'));

interface Tries {
	failed: number;
	at: number;
	/** The tries of one key go one after another: many at once gain nothing. */
	queue: Promise<unknown>;
}

/** Slows the tries of one address at one badge. */
export class SlowDown {
	readonly #tries = new Map<string, Tries>();

	constructor(
		private readonly now: () => number = Date.now,
		private readonly wait: (ms: number) => Promise<void> = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
	) {}

	/** How long the next try waits, ms. */
	waitOf(of: string): number {
		const key = shortKey(of);
		const { failed, at } = this.#tries.get(key) ?? { failed: 0, at: 0 };
		if (failed < FREE_TRIES || this.now() - at > FORGET_MS) return 0;
		return Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (failed - FREE_TRIES));
	}

	/** Runs a try after its wait; `right` says whether it was. */
	async attempt<T>(of: string, tryIt: () => Promise<T>, right: (result: T) => boolean): Promise<T> {
		const key = shortKey(of);
		const entry = this.#entry(key);
		const mine = entry.queue.then(async () => {
			await this.wait(this.waitOf(key));
			const result = await tryIt();
			entry.failed = right(result) ? 0 : entry.failed + 1;
			entry.at = this.now();
			return result;
		});
		entry.queue = mine.catch(() => undefined);
		return mine;
	}

	#entry(key: string): Tries {
		let entry = this.#tries.get(key);
		if (entry && this.now() - entry.at > FORGET_MS) entry.failed = 0;
		if (!entry) {
			if (this.#tries.size >= MOST_KEPT) this.#tries.delete(this.#tries.keys().next().value!);
			entry = { failed: 0, at: this.now(), queue: Promise.resolve() };
			this.#tries.set(key, entry);
		}
		return entry;
	}
}

export const slowDown = new SlowDown();
