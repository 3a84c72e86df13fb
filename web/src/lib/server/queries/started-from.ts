import { sql } from 'kysely';
import { Conflict } from '../answer.ts';
import type { Trx } from '../db/index.ts';

/** What stands now, with who kept it and when. */
interface Standing {
	revision: number;
	by: string | null;
	at?: Date;
}

/** Refuses an edit that was begun from another revision than the one that stands: the caller holds the lock.
 * @param from revision that the edit started from; null: there was none
 * @param what it is, as people call it
 */
export function refuseStale(from: number | null, now: Standing | undefined, what: string): void {
	if ((now?.revision ?? null) === from) return;
	if (!now) throw new Conflict(null, `${what}: revision ${from} does not stand any more. Look at what stands, then decide again.`);
	throw new Conflict(
		now.revision,
		`${what}: ${now.by ?? 'somebody'} kept revision ${now.revision} meanwhile${from === null ? '' : `; this edit started from ${from}`}. Theirs stands; look at it, then decide again.`
	);
}

/** The latest revision of what the whole plant shares; undefined where nobody has kept any. */
export function latestRevision(trx: Trx, table: 'pasteLimit' | 'openingRules' | 'signatureThreshold') {
	return trx
		.selectFrom(table as 'pasteLimit')
		.leftJoin('user', 'user.id', `${table as 'pasteLimit'}.createdBy`)
		.select(['revision', `${table as 'pasteLimit'}.createdAt as at`, 'user.name as by'])
		.orderBy('revision', 'desc')
		.executeTakeFirst();
}

/** Refuses an edit of one value that was begun over another value than the one that stands: the caller holds the lock. */
export function refuseOverwritten(from: number | null, now: number | null, what: string): void {
	if (from === now) return;
	const say = (value: number | null) => (value === null ? 'nothing' : String(value));
	throw new Conflict(now, `${what}: ${say(now)} stands there now; this edit started from ${say(from)}. Look at it, then decide again.`);
}

/** One edit at a time of what a key names, until the transaction ends. */
export async function lockKey(trx: Trx, key: string): Promise<void> {
	await sql`select pg_advisory_xact_lock(hashtextextended(${key}, 0))`.execute(trx);
}
