import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { Piscina } from 'piscina';
import type * as Work from './worker.ts';

type Name = keyof typeof Work;

/** Stands beside the server's entry: `npm start` builds both. */
const WORKER = join(dirname(process.argv[1]!), 'heavy', 'worker.js');

let pool: Piscina | null = null;

/** Works something out beside the thread that answers pages, with the core's own function.
 * @throws what the function throws, as a plain error: only its message crosses
 */
export function heavily<K extends Name>(name: K, ...args: Parameters<(typeof Work)[K]>[0]): Promise<ReturnType<(typeof Work)[K]>> {
	// One thread stays for the pages and one process for the database.
	pool ??= new Piscina({ filename: WORKER, minThreads: 1, maxThreads: Math.max(1, availableParallelism() - 1), idleTimeout: 60_000 });
	return pool.run(args, { name });
}
