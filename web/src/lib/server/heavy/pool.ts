import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { error } from '@sveltejs/kit';
import { InputError } from '@keen-relay/core/judgement';
import { Piscina } from 'piscina';
import { Refusal } from '../answer.ts';
import type * as Work from './worker.ts';

type Name = keyof typeof Work;
type ArgsOf<K extends Name> = Parameters<(typeof Work)[K]>[0];
type ResultOf<K extends Name> = Extract<Awaited<ReturnType<(typeof Work)[K]>>, { done: unknown }>['done'];

/** Stands beside the server's entry: `npm start` builds both. */
const WORKER = join(dirname(process.argv[1]!), 'heavy', 'worker.js');
/** What a file or a formula from outside may take. */
const MOST_S = 20;
const MOST_MB = 700;
/** Waiting for a thread; whoever comes then is told to come again. */
const MOST_WAITING = 24;
const IDLE_MS = 60_000;

let own: Piscina | null = null;
let outside: Piscina | null = null;

/** Works something out beside the thread that answers pages, with the core's own function, on what this plant has measured itself. */
export function heavily<K extends Name>(name: K, ...args: ArgsOf<K>): Promise<ResultOf<K>> {
	// One thread stays for the pages and one process for the database.
	own ??= new Piscina({ filename: WORKER, minThreads: 1, maxThreads: Math.max(1, availableParallelism() - 1), idleTimeout: IDLE_MS });
	return own.run(args, { name }).then(taken<K>);
}

/** The same on what came from outside: within 20 s and 700 MB, in threads that nothing else waits for. What goes beyond ends its thread and is refused.
 * @param field whose value it is, for the refusal
 */
export async function bounded<K extends Name>(field: string, name: K, ...args: ArgsOf<K>): Promise<ResultOf<K>> {
	outside ??= new Piscina({
		filename: WORKER,
		minThreads: 0,
		maxThreads: 2,
		maxQueue: MOST_WAITING,
		idleTimeout: IDLE_MS,
		resourceLimits: { maxOldGenerationSizeMb: MOST_MB, stackSizeMb: 4 }
	});
	try {
		return taken<K>(await outside.run(args, { name, signal: AbortSignal.timeout(1000 * MOST_S) }));
	} catch (caught) {
		const { name: kind, code, message } = caught as Error & { code?: unknown };
		if (/queue is at limit|no task queue/i.test(message))
			error(503, 'Too many files and calculations are waiting. Nothing was changed; try again in a few seconds.');
		const why =
			kind === 'AbortError' || kind === 'TimeoutError'
				? `took longer than ${MOST_S} s`
				: code === 'ERR_WORKER_OUT_OF_MEMORY'
					? `needed more than ${MOST_MB} MB`
					: caught instanceof RangeError || kind === 'RangeError'
						? 'is nested or repeated too deeply'
						: null;
		if (why === null) throw caught;
		throw new Refusal([
			{
				severity: 'error',
				code: 'too_much',
				field,
				value: '',
				message: `${field}: reading this ${why} and was stopped. Is it the right file? Send a smaller part of it.`
			}
		]);
	}
}

function taken<K extends Name>(answer: Awaited<ReturnType<(typeof Work)[K]>>): ResultOf<K> {
	if ('refused' in answer) throw new InputError(...answer.refused);
	return answer.done as ResultOf<K>;
}
