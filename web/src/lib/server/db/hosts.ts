import type { Pool, PoolClient, PoolConfig } from 'pg';

/** Addresses of a database: one, or several hosts of the same one with blanks between them. */
export const hostsOf = (text: string): string[] => text.trim().split(/\s+/).filter(Boolean);

/** A connection that was found to take writes is asked again after this. */
const TRUSTED_MS = 2000;

type Of = Pick<Pool, 'connect' | 'end' | 'on'>;

/** Pools of several hosts of one database, of which one takes writes: each is tried in turn, the one that takes them is stayed with until it does not any more.
 * Looks like a pool to whoever asks for connections.
 */
export class HostsPool {
	readonly #pools: Of[];
	#at = 0;
	#moved: () => void = () => undefined;
	#used: number | null = null;
	/** When each connection was last found to take writes, real ms. */
	readonly #trusted = new WeakMap<object, number>();

	/** @param makePool a pool of one host */
	constructor(
		readonly hosts: readonly string[],
		makePool: (config: PoolConfig) => Of,
		config: PoolConfig,
		private readonly now: () => number = Date.now
	) {
		this.#pools = hosts.map((connectionString) => makePool({ ...config, connectionString }));
	}

	/** The host that is used now. */
	get host(): string {
		return this.hosts[this.#at]!;
	}

	/** Calls back each time another host is used than before: a connection that stays open has to follow. */
	onMove(callback: () => void): void {
		this.#moved = callback;
	}

	/** @throws what the last host answered, where none can be reached; an error in words where all of them only let read */
	async connect(): Promise<PoolClient> {
		let problem: unknown = null;
		for (let tried = 0; tried < this.#pools.length; tried++) {
			const at = this.#at;
			try {
				const client = await this.#pools[at]!.connect();
				if (await this.#takesWrites(client)) {
					if (this.#used !== null && this.#used !== at) this.#moved();
					this.#used = at;
					return client;
				}
				problem ??= Object.assign(new Error('None of the database hosts takes writes.'), { code: 'ECONNREFUSED' });
			} catch (error) {
				problem = error;
			}
			// Another request may have moved on already.
			if (this.#at === at) this.#at = (at + 1) % this.#pools.length;
		}
		throw problem;
	}

	async #takesWrites(client: PoolClient): Promise<boolean> {
		if (this.now() - (this.#trusted.get(client) ?? -Infinity) < TRUSTED_MS) return true;
		try {
			const { rows } = await client.query<{ transaction_read_only: string }>('show transaction_read_only');
			if (rows[0]?.transaction_read_only === 'off') {
				this.#trusted.set(client, this.now());
				return true;
			}
		} catch (error) {
			client.release(true);
			throw error;
		}
		// Closed: once the host takes writes again it gets a connection that knows so.
		client.release(true);
		return false;
	}

	/** As a pool's own: text or a query, with its values. */
	async query(...args: readonly unknown[]): Promise<unknown> {
		const client = await this.connect();
		let broken: Error | undefined;
		try {
			return await (client.query as (...all: unknown[]) => Promise<unknown>)(...args);
		} catch (error) {
			// A statement that was refused leaves its connection whole; one that never came back does not.
			if (!(error as { severity?: unknown }).severity) broken = error as Error;
			throw error;
		} finally {
			client.release(broken);
		}
	}

	on(...args: Parameters<Pool['on']>): this {
		for (const pool of this.#pools) pool.on(...args);
		return this;
	}

	async end(): Promise<void> {
		await Promise.all(this.#pools.map((pool) => pool.end()));
	}
}
