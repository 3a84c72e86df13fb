import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import pg from 'pg';
import { z } from 'zod';
import { announce, db, type Topic, type Trx } from '../db/index.ts';
import { plantNow } from '../line/clock.ts';
import { refuse } from '../answer.ts';
import { record } from './record.ts';
import { message, type Message } from './messages.ts';

export interface Receipt {
	received: number;
	accepted: number;
	duplicates: number;
	quarantined: { line: number; reason: string }[];
}

const FUTURE_S = 120;

/** Takes a batch of machine messages, one JSON object a line, in one transaction.
 * The same message again counts once; the same identity with other content is a conflict and is kept aside; a bad or unknown message
 * is kept verbatim in quarantine and reported with its line. received = accepted + duplicates + quarantined.
 */
export async function ingest(text: string): Promise<Receipt> {
	const receivedAt = await plantNow();
	const lines = text.split('\n').flatMap((raw, i) => (raw.trim() ? [{ raw: raw.trim(), line: i + 1 }] : []));
	if (lines.length === 0) refuse('body', '', 'The batch is empty: send one JSON object a line.');
	return db.transaction().execute(async (trx) => {
		const receipt: Receipt = { received: lines.length, accepted: 0, duplicates: 0, quarantined: [] };
		const topics = new Set<Topic>();
		for (const { raw, line } of lines) {
			const parsed = parse(raw, receivedAt);
			if (typeof parsed === 'string') {
				await quarantine(trx, receipt, { raw, line, reason: parsed, conflict: false, receivedAt });
				continue;
			}
			const known = await enterLedger(trx, parsed, raw, receivedAt);
			if (known === 'duplicate') receipt.duplicates++;
			else if (known === 'conflict')
				await quarantine(trx, receipt, {
					raw,
					line,
					reason: 'same identity as an earlier message, other content',
					conflict: true,
					receivedAt
				});
			else {
				const reason = await attempt(trx, () => record(trx, parsed, topics));
				if (reason === null) receipt.accepted++;
				else {
					await trx
						.deleteFrom('messageLedger')
						.where('source', '=', parsed.source)
						.where('bootId', '=', parsed.bootId)
						.where('number', '=', parsed.number)
						.execute();
					await quarantine(trx, receipt, { raw, line, reason, conflict: false, receivedAt });
				}
			}
		}
		for (const topic of topics) await announce(trx, topic);
		return receipt;
	});
}

function parse(raw: string, nowMs: number): Message | string {
	let value: unknown;
	try {
		value = JSON.parse(raw);
	} catch {
		return 'not JSON';
	}
	const result = message.safeParse(value);
	if (!result.success) return z.prettifyError(result.error).replace(/\s+/g, ' ').slice(0, 300);
	if (Date.parse(result.data.at) > nowMs + FUTURE_S * 1000) return `in the future: ${result.data.at}`;
	return result.data;
}

async function enterLedger(trx: Trx, m: Message, raw: string, nowMs: number): Promise<'new' | 'duplicate' | 'conflict'> {
	const hash = createHash('sha256').update(raw).digest('hex');
	const entered = await trx
		.insertInto('messageLedger')
		.values({ source: m.source, bootId: m.bootId, number: m.number, hash, receivedAt: new Date(nowMs) })
		.onConflict((conflict) => conflict.doNothing())
		.returning('number')
		.executeTakeFirst();
	if (entered) return 'new';
	const before = await trx
		.selectFrom('messageLedger')
		.select('hash')
		.where('source', '=', m.source)
		.where('bootId', '=', m.bootId)
		.where('number', '=', m.number)
		.executeTakeFirstOrThrow();
	return before.hash === hash ? 'duplicate' : 'conflict';
}

/** A message that names what does not exist must not undo its neighbours: it runs inside a savepoint. */
async function attempt(trx: Trx, work: () => Promise<string | null>): Promise<string | null> {
	await sql`savepoint one_message`.execute(trx);
	const reason = await work().catch((error: unknown) => {
		// The database refused the content (class 23: a constraint): that is the message's fault, anything else is ours.
		if (error instanceof pg.DatabaseError && error.code?.startsWith('23')) return error.detail ?? error.message;
		throw error;
	});
	if (reason === null) await sql`release savepoint one_message`.execute(trx);
	else await sql`rollback to savepoint one_message`.execute(trx);
	return reason;
}

async function quarantine(
	trx: Trx,
	receipt: Receipt,
	{ raw, line, reason, conflict, receivedAt }: { raw: string; line: number; reason: string; conflict: boolean; receivedAt: number }
): Promise<void> {
	receipt.quarantined.push({ line, reason });
	await trx
		.insertInto('messageQuarantine')
		.values({ receivedAt: new Date(receivedAt), line, raw, reason, conflict })
		.execute();
}
