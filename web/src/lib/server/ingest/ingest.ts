import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import { z } from 'zod';
import { announce, type Trx } from '../db/index.ts';
import { transactionWithCopy, type Copy } from '../db/pinned.ts';
import { plantNow } from '../line/clock.ts';
import { refuse } from '../answer.ts';
import { watchRun } from '../paste-check/signatures.ts';
import { Batch } from './batch.ts';
import { message, type Message } from './messages.ts';

export interface Receipt {
	received: number;
	accepted: number;
	duplicates: number;
	quarantined: { line: number; reason: string }[];
}

interface Line {
	raw: string;
	line: number;
	source: string;
	message: Message | null;
	hash: string;
	/** null while it is neither refused nor a duplicate. */
	reason: string | null;
	duplicate: boolean;
	conflict: boolean;
}

const FUTURE_S = 120;
/** Where the source of a message cannot be read. */
const UNREADABLE = '(unreadable)';
/** Two batches may open the same panel at the same moment: the second one looks again. */
const TRIES = 3;

/** Takes a batch of machine messages, one JSON object a line, in one transaction.
 * The same message again counts once; the same identity with other content is a conflict and is kept aside; a bad or unknown message
 * is kept verbatim in quarantine and reported with its line. received = accepted + duplicates + quarantined, for every source.
 */
export async function ingest(text: string): Promise<Receipt> {
	const nowMs = await plantNow();
	const lines = text.split('\n').flatMap((raw, i) => (raw.trim() ? [readLine(raw.trim(), i + 1, nowMs)] : []));
	if (lines.length === 0) refuse('body', '', 'The batch is empty: send one JSON object a line.');
	for (let attempt = 1; ; attempt++)
		try {
			return await transactionWithCopy((trx, copy) =>
				admit(
					trx,
					copy,
					lines.map((line) => ({ ...line })),
					nowMs
				)
			);
		} catch (error) {
			const { code } = error as { code?: string };
			if (attempt === TRIES || !(code === '23505' || code === '40P01' || code === '40001')) throw error;
		}
}

async function admit(trx: Trx, copy: Copy, lines: Line[], nowMs: number): Promise<Receipt> {
	await enterLedger(trx, lines, nowMs);
	const open = lines.filter((line) => line.message && !line.reason && !line.duplicate);
	const batch = await Batch.begin(
		trx,
		copy,
		open.map((line) => line.message!)
	);
	for (const line of open) line.reason = batch.take(line.message!);
	await batch.write();
	await leaveLedger(
		trx,
		open.filter((line) => line.reason !== null)
	);
	const aside = lines.filter((line) => line.reason !== null);
	await quarantine(trx, aside, nowMs);
	await count(trx, lines, nowMs);
	for (const topic of batch.topics) await announce(trx, topic);
	await announce(trx, 'machines');
	for (const runId of batch.inspectedRuns) watchRun(runId);
	const duplicates = lines.filter((line) => line.duplicate).length;
	return {
		received: lines.length,
		accepted: lines.length - duplicates - aside.length,
		duplicates,
		quarantined: aside.map(({ line, reason }) => ({ line, reason: reason! }))
	};
}

function readLine(raw: string, line: number, nowMs: number): Line {
	const read: Line = {
		raw,
		line,
		source: UNREADABLE,
		message: null,
		hash: createHash('sha256').update(raw).digest('hex'),
		reason: null,
		duplicate: false,
		conflict: false
	};
	let value: unknown;
	try {
		value = JSON.parse(raw);
	} catch {
		return { ...read, reason: 'not JSON' };
	}
	const said = (value as { source?: unknown } | null)?.source;
	if (typeof said === 'string' && said !== '') read.source = said.slice(0, 80);
	const result = message.safeParse(value);
	if (!result.success) return { ...read, reason: z.prettifyError(result.error).replace(/\s+/g, ' ').slice(0, 300) };
	if (Date.parse(result.data.at) > nowMs + FUTURE_S * 1000) return { ...read, reason: `in the future: ${result.data.at}` };
	return { ...read, message: result.data };
}

const keyOf = (m: { source: string; bootId: string; number: number }) => `${m.source}\n${m.bootId.toLowerCase()}\n${m.number}`;

/** The ledger decides what is new: an identity is entered once; the same content again is a duplicate, other content a conflict. */
async function enterLedger(trx: Trx, lines: readonly Line[], nowMs: number): Promise<void> {
	const first = new Map<string, Line>();
	const again: Line[] = [];
	for (const line of lines) {
		if (!line.message) continue;
		const key = keyOf(line.message);
		if (first.has(key)) again.push(line);
		else first.set(key, line);
	}
	const fresh = [...first.values()];
	if (fresh.length === 0) return;
	const column = <T>(of: (m: Message, line: Line) => T) => fresh.map((line) => of(line.message!, line));
	const entered = await sql<{ source: string; bootId: string; number: number }>`
		insert into message_ledger (source, boot_id, number, hash, received_at)
		select s, b, n, h, ${new Date(nowMs)} from unnest(${column((m) => m.source)}::text[], ${column((m) => m.bootId)}::uuid[],
			${column((m) => m.number)}::bigint[], ${column((_, line) => line.hash)}::text[]) as m(s, b, n, h)
		on conflict do nothing returning source, boot_id as "bootId", number`.execute(trx);
	const isNew = new Set(entered.rows.map(keyOf));
	const before = new Map(fresh.filter((line) => isNew.has(keyOf(line.message!))).map((line) => [keyOf(line.message!), line.hash]));
	const known = fresh.filter((line) => !isNew.has(keyOf(line.message!)));
	if (known.length) {
		const rows = await sql<{ source: string; bootId: string; number: number; hash: string }>`
			select l.source, l.boot_id as "bootId", l.number, l.hash from message_ledger l
			join unnest(${known.map((l) => l.message!.source)}::text[], ${known.map((l) => l.message!.bootId)}::uuid[],
				${known.map((l) => l.message!.number)}::bigint[]) as m(s, b, n) on l.source = m.s and l.boot_id = m.b and l.number = m.n`.execute(trx);
		for (const row of rows.rows) before.set(keyOf(row), row.hash);
	}
	for (const line of [...known, ...again]) {
		if (before.get(keyOf(line.message!)) === line.hash) line.duplicate = true;
		else [line.conflict, line.reason] = [true, 'same identity as an earlier message, other content'];
	}
}

/** A message that could not be taken leaves its place, so that it can be sent or admitted again corrected. */
async function leaveLedger(trx: Trx, refused: readonly Line[]): Promise<void> {
	if (refused.length === 0) return;
	await sql`delete from message_ledger l using unnest(${refused.map((l) => l.message!.source)}::text[],
		${refused.map((l) => l.message!.bootId)}::uuid[], ${refused.map((l) => l.message!.number)}::bigint[]) as m(s, b, n)
		where l.source = m.s and l.boot_id = m.b and l.number = m.n`.execute(trx);
}

async function quarantine(trx: Trx, aside: readonly Line[], nowMs: number): Promise<void> {
	if (aside.length === 0) return;
	await trx
		.insertInto('messageQuarantine')
		.values(
			aside.map(({ raw, line, reason, conflict, source }) => ({
				receivedAt: new Date(nowMs),
				line,
				raw,
				reason: reason!,
				conflict,
				source,
				settledBy: null,
				settledAt: null,
				corrected: null
			}))
		)
		.execute();
}

/** Counts by source, in the same transaction. */
async function count(trx: Trx, lines: readonly Line[], nowMs: number): Promise<void> {
	const sources = [...new Set(lines.map((line) => line.source))].sort();
	for (const source of sources) {
		const own = lines.filter((line) => line.source === source);
		const duplicates = own.filter((line) => line.duplicate).length;
		const quarantined = own.filter((line) => line.reason !== null).length;
		await addCounts(trx, source, { received: own.length, accepted: own.length - duplicates - quarantined, duplicates, quarantined }, nowMs);
	}
}

async function addCounts(
	trx: Trx,
	source: string,
	by: { received: number; accepted: number; duplicates: number; quarantined: number },
	nowMs: number
): Promise<void> {
	await sql`insert into message_source (source, received, accepted, duplicates, quarantined, last_at)
		values (${source}, ${by.received}, ${by.accepted}, ${by.duplicates}, ${by.quarantined}, ${new Date(nowMs)})
		on conflict (source) do update set received = message_source.received + excluded.received,
			accepted = message_source.accepted + excluded.accepted, duplicates = message_source.duplicates + excluded.duplicates,
			quarantined = message_source.quarantined + excluded.quarantined, last_at = excluded.last_at`.execute(trx);
}

/** Admits a message from quarantine, corrected by a person, through the same gate. Still wrong, it stays with the new reason.
 * The counts follow: one less in quarantine, one more accepted.
 */
export async function readmit(
	trx: Trx,
	copy: Copy,
	row: { id: number; source: string | null },
	text: string,
	personId: string
): Promise<string | null> {
	const nowMs = await plantNow();
	const line = readLine(text.trim(), 1, nowMs);
	if (line.reason) return line.reason;
	await enterLedger(trx, [line], nowMs);
	if (line.duplicate) return 'this very message was accepted already: dismiss it instead';
	if (line.reason) return line.reason;
	const batch = await Batch.begin(trx, copy, [line.message!]);
	const reason = batch.take(line.message!);
	if (reason !== null) {
		await leaveLedger(trx, [line]);
		return reason;
	}
	await batch.write();
	await trx
		.updateTable('messageQuarantine')
		.set({ state: 'readmitted', settledBy: personId, settledAt: new Date(nowMs), corrected: text.trim() })
		.where('id', '=', row.id)
		.execute();
	const from = row.source ?? UNREADABLE;
	// The message counts for the source that it now says it is from.
	await addCounts(trx, from, { received: -1, accepted: 0, duplicates: 0, quarantined: -1 }, nowMs);
	await addCounts(trx, line.source, { received: 1, accepted: 1, duplicates: 0, quarantined: 0 }, nowMs);
	for (const topic of batch.topics) await announce(trx, topic);
	return null;
}
