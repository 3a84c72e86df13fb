import { isUtf8 } from 'node:buffer';
import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import { refuse, wordsOf } from '../answer.ts';
import { announce, type Topic, type Trx } from '../db/index.ts';
import { insertRows } from '../db/insert-rows.ts';
import { transactionWithCopy, type Copy } from '../db/pinned.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { message } from '../stations/index.ts';
import type { AnyMessage } from '../stations/message-parts.ts';
import { Batch, sourceWait } from './batch.ts';

export interface Receipt {
	received: number;
	accepted: number;
	duplicates: number;
	quarantined: { line: number; reason: string }[];
}

interface Line {
	raw: string;
	/** As it came, where no text column can hold it. */
	verbatim: Buffer | null;
	line: number;
	source: string;
	message: AnyMessage | null;
	hash: string;
	/** null while it is neither refused nor a duplicate. */
	reason: string | null;
	/** Serial of the panel whose print it waits for. */
	waitsFor: string | null;
	duplicate: boolean;
	conflict: boolean;
}

const FUTURE_S = 120;
/** Nothing that a machine reports is older than the trade's present machines: a clock that was never set. */
const EARLIEST = Date.UTC(2000, 0, 1);
/** Where the source of a message cannot be read. */
const UNREADABLE = '(unreadable)';
/** Two batches may open the same panel at the same moment: the second one looks again. */
const TRIES = 3;

const codeOf = (error: unknown) => String((error as { code?: unknown }).code ?? '');
/** What another batch has done meanwhile: the whole of this one is looked at again. */
const isRace = (code: string) => code === '23505' || code === '40P01' || code === '40001';
/** A value that no column takes, whatever let it through: classes 22 (data) and 23 (constraints). */
const isData = (code: string) => /^2[23]/.test(code);

/** Takes a batch of machine messages, one JSON object a line, in one transaction.
 * The same message again counts once; the same identity with other content is a conflict and is kept aside; a bad or unknown message
 * is kept verbatim in quarantine and reported with its line. received = accepted + duplicates + quarantined, for every source.
 * One bad line is put aside alone, whatever is in it.
 */
export async function ingest(body: Uint8Array | string): Promise<Receipt> {
	const nowMs = await plantNow();
	const lines = linesOf(typeof body === 'string' ? Buffer.from(body) : Buffer.from(body.buffer, body.byteOffset, body.byteLength), nowMs);
	if (lines.length === 0) refuse('body', '', 'The batch is empty: send one JSON object a line.');
	for (let attempt = 1; ; attempt++)
		try {
			const { receipt, afterwards } = await transactionWithCopy((trx, copy) =>
				admit(
					trx,
					copy,
					lines.map((line) => ({ ...line })),
					nowMs,
					attempt === TRIES
				)
			);
			for (const work of afterwards) work();
			return receipt;
		} catch (error) {
			if (attempt === TRIES || !isRace(codeOf(error))) throw error;
		}
}

const NEWLINE = 10;

/** The lines of a body as bytes: what is no UTF-8 is one bad line, never a repaired one. */
function linesOf(body: Buffer, nowMs: number): Line[] {
	const lines: Line[] = [];
	for (let from = 0, n = 1; from < body.length; n++) {
		const end = body.indexOf(NEWLINE, from);
		const bytes = body.subarray(from, end === -1 ? body.length : end);
		from = end === -1 ? body.length : end + 1;
		const raw = bytes.toString('utf8').trim();
		if (raw) lines.push(readLine(raw, n, nowMs, bytes));
	}
	return lines;
}

interface Taken {
	topics: Set<Topic>;
	afterwards: (() => void)[];
	opened: Set<string>;
}

async function admit(
	trx: Trx,
	copy: Copy,
	lines: Line[],
	nowMs: number,
	lastTry: boolean
): Promise<{ receipt: Receipt; afterwards: (() => void)[] }> {
	await enterLedger(trx, lines, nowMs);
	const open = lines.filter((line) => line.message && !line.reason && !line.duplicate);
	const taken: Taken = { topics: new Set(['machines']), afterwards: [], opened: new Set() };
	await take(trx, copy, inTheirOrder(open), taken, lastTry);
	await leaveLedger(
		trx,
		open.filter((line) => line.reason !== null)
	);
	const aside = lines.filter((line) => line.reason !== null);
	await quarantine(trx, aside, nowMs);
	await count(trx, lines, nowMs);
	await admitWaiting(trx, copy, taken, nowMs, lastTry);
	for (const topic of taken.topics) await announce(trx, topic);
	const duplicates = lines.filter((line) => line.duplicate).length;
	return {
		receipt: {
			received: lines.length,
			accepted: lines.length - duplicates - aside.length,
			duplicates,
			quarantined: aside.map(({ line, reason }) => ({ line, reason: reason! }))
		},
		afterwards: taken.afterwards
	};
}

/** What happened first is taken first, whatever order it was sent in. */
function inTheirOrder(lines: readonly Line[]): Line[] {
	return [...lines].sort((a, b) => Date.parse(a.message!.at) - Date.parse(b.message!.at));
}

/** Takes messages together; where the database refuses a value that nothing before it refused, they are halved until it stands alone. */
async function take(trx: Trx, copy: Copy, open: readonly Line[], taken: Taken, lastTry: boolean): Promise<void> {
	if (open.length === 0) return;
	await sql`savepoint together`.execute(trx);
	try {
		const batch = await Batch.begin(
			trx,
			copy,
			open.map((line) => line.message!)
		);
		for (const line of open) {
			const refused = batch.take(line.message!);
			line.reason = refused?.reason ?? null;
			line.waitsFor = refused?.waitsFor ?? null;
		}
		await batch.write();
		await sql`release savepoint together`.execute(trx);
		for (const topic of batch.topics) taken.topics.add(topic);
		for (const serial of batch.opened) taken.opened.add(serial);
		taken.afterwards.push(() => batch.afterwards());
	} catch (error) {
		const code = codeOf(error);
		if (!isData(code) || (isRace(code) && !lastTry)) throw error;
		await sql`rollback to savepoint together`.execute(trx);
		await sql`release savepoint together`.execute(trx);
		for (const line of open) [line.reason, line.waitsFor] = [null, null];
		const [only] = open;
		if (open.length === 1) only!.reason = `cannot be kept: ${error instanceof Error ? error.message : code}`.slice(0, 300);
		else {
			const half = Math.ceil(open.length / 2);
			await take(trx, copy, open.slice(0, half), taken, lastTry);
			await take(trx, copy, open.slice(half), taken, lastTry);
		}
	}
}

/** Takes what had waited for the panels that were printed now; what still cannot be taken may wait for another print. */
async function admitWaiting(trx: Trx, copy: Copy, taken: Taken, nowMs: number, lastTry: boolean): Promise<void> {
	if (taken.opened.size === 0) return;
	const rows = await trx
		.selectFrom('messageQuarantine')
		.select(['id', 'raw', 'source'])
		.where('state', '=', 'open')
		.where('waitsFor', 'in', [...taken.opened])
		.orderBy('id')
		.forUpdate()
		.execute();
	if (rows.length === 0) return;
	const lines = rows.map((row) => ({ ...readLine(row.raw, 1, nowMs), row }));
	await enterLedger(trx, lines, nowMs);
	const open = lines.filter((line) => line.message && !line.reason && !line.duplicate);
	await take(trx, copy, inTheirOrder(open), taken, lastTry);
	await leaveLedger(
		trx,
		open.filter((line) => line.reason !== null)
	);
	for (const { row, reason, waitsFor, duplicate } of lines) {
		await trx
			.updateTable('messageQuarantine')
			.set(
				reason !== null
					? { reason, waitsFor }
					: { state: duplicate ? ('dismissed' as const) : ('readmitted' as const), settledAt: new Date(nowMs) }
			)
			.where('id', '=', row.id)
			.execute();
		if (reason !== null) continue;
		const settled = { received: 0, accepted: duplicate ? 0 : 1, duplicates: duplicate ? 1 : 0, quarantined: -1 };
		await addCounts(trx, row.source ?? UNREADABLE, settled, nowMs);
	}
}

/** Escapes by which JSON can name what no text column takes. */
const SUSPECT = /\\u(0000|[dD][89a-fA-F])/;

/** Whether a value and all in it can be kept as text: no NUL, no half of a surrogate pair. */
function canBeKept(value: unknown): boolean {
	if (typeof value === 'string') return !value.includes('\0') && value.isWellFormed();
	if (Array.isArray(value)) return value.every(canBeKept);
	if (typeof value !== 'object' || value === null) return true;
	return Object.entries(value).every(([key, own]) => canBeKept(key) && canBeKept(own));
}

function readLine(raw: string, line: number, nowMs: number, bytes?: Buffer): Line {
	const isText = bytes === undefined || isUtf8(bytes);
	const storable = isText && !raw.includes('\0');
	const read: Line = {
		raw: storable ? raw : raw.replaceAll('\0', '␀'),
		verbatim: storable || !bytes ? null : Buffer.from(bytes),
		line,
		source: UNREADABLE,
		message: null,
		hash: createHash('sha256')
			.update(bytes?.length === raw.length ? bytes : raw)
			.digest('hex'),
		reason: null,
		waitsFor: null,
		duplicate: false,
		conflict: false
	};
	if (!isText) return { ...read, reason: 'not UTF-8 text' };
	let value: unknown;
	try {
		value = JSON.parse(raw);
	} catch {
		return { ...read, reason: 'not JSON' };
	}
	const said = (value as { source?: unknown } | null)?.source;
	if (typeof said === 'string' && said !== '' && canBeKept(said)) read.source = said.slice(0, 80).toWellFormed();
	if (SUSPECT.test(raw) && !canBeKept(value)) return { ...read, reason: 'has a character that is none: NUL, or half of a pair' };
	const result = message.safeParse(value);
	if (!result.success) return { ...read, reason: wordsOf(result.error).replace(/\s+/g, ' ').slice(0, 300).toWellFormed() };
	const at = Date.parse(result.data.at);
	if (at > nowMs + FUTURE_S * 1000) return { ...read, reason: `in the future: ${result.data.at}` };
	if (at < EARLIEST) return { ...read, reason: `before the year 2000: ${result.data.at}; set the machine’s clock` };
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
	await refuseClosed(trx, [...first.values(), ...again], nowMs);
	const fresh = [...first.values()].filter((line) => !line.reason);
	if (fresh.length === 0) return;
	const column = <T>(of: (m: AnyMessage, line: Line) => T) => fresh.map((line) => of(line.message!, line));
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
		if (line.reason) continue;
		if (before.get(keyOf(line.message!)) === line.hash) line.duplicate = true;
		else [line.conflict, line.reason] = [true, 'same identity as an earlier message, other content'];
	}
}

/** A boot that is over takes no more: what the ledger kept of it may be gone, and the same message must never count twice. */
async function refuseClosed(trx: Trx, lines: readonly Line[], nowMs: number): Promise<void> {
	const boots = new Map(lines.map(({ message: m }) => [`${m!.source}\n${m!.bootId.toLowerCase()}`, m!]));
	const now = new Date(nowMs);
	const heard = [...boots.values()].sort((a, b) => a.source.localeCompare(b.source) || a.bootId.localeCompare(b.bootId));
	const rows = await sql<{ source: string; bootId: string; closedAt: Date | null }>`
		insert into message_boot (source, boot_id, first_at, last_at)
		select s, b, ${now}, ${now} from unnest(${heard.map((m) => m.source)}::text[], ${heard.map((m) => m.bootId)}::uuid[]) as m(s, b)
		on conflict (source, boot_id) do update set last_at = greatest(message_boot.last_at, excluded.last_at)
		returning source, boot_id as "bootId", closed_at as "closedAt"`.execute(trx);
	const closed = new Map(rows.rows.flatMap((row) => (row.closedAt ? [[`${row.source}\n${row.bootId}`, row.closedAt] as const] : [])));
	for (const line of lines) {
		const at = closed.get(`${line.message!.source}\n${line.message!.bootId.toLowerCase()}`);
		if (at)
			line.reason = `this start of the machine was closed on ${at.toISOString().slice(0, 10)}: whether it was counted already is no longer known`;
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
	await insertRows(trx, 'messageQuarantine', aside, ({ raw, verbatim, line, reason, conflict, source, waitsFor }) => ({
		receivedAt: new Date(nowMs),
		line,
		raw,
		verbatim,
		reason: reason!,
		conflict,
		source,
		waitsFor,
		settledBy: null,
		settledAt: null,
		corrected: null
	}));
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
	const one = await takeOne(trx, copy, text, nowMs);
	if (one.reason !== null) return one.reason;
	await trx
		.updateTable('messageQuarantine')
		.set({ state: 'readmitted', settledBy: personId, settledAt: new Date(nowMs), corrected: text.trim() })
		.where('id', '=', row.id)
		.execute();
	const from = row.source ?? UNREADABLE;
	// The message counts for the source that it now says it is from.
	await addCounts(trx, from, { received: -1, accepted: 0, duplicates: 0, quarantined: -1 }, nowMs);
	await addCounts(trx, one.source, { received: 1, accepted: 1, duplicates: 0, quarantined: 0 }, nowMs);
	for (const topic of one.topics) await announce(trx, topic);
	return null;
}

/** Takes what had waited for its source to be matched to a station; what still cannot be taken stays with its reason. */
export async function admitOf(trx: Trx, copy: Copy, source: string): Promise<void> {
	const taken: Taken = { topics: new Set(['machines']), afterwards: [], opened: new Set([sourceWait(source)]) };
	await admitWaiting(trx, copy, taken, await plantNow(), true);
	for (const topic of taken.topics) await announce(trx, topic);
}

/** Takes one message through the gate, with what had waited for it; one that is refused leaves nothing behind. */
async function takeOne(
	trx: Trx,
	copy: Copy,
	text: string,
	nowMs: number
): Promise<{ reason: string | null; source: string; topics: Iterable<Topic> }> {
	const line = readLine(text.trim(), 1, nowMs);
	const no = (reason: string) => ({ reason, source: line.source, topics: [] });
	if (line.reason) return no(line.reason);
	await enterLedger(trx, [line], nowMs);
	if (line.duplicate) return no('this very message was accepted already');
	if (line.reason) return no(line.reason);
	const taken: Taken = { topics: new Set(['machines']), afterwards: [], opened: new Set() };
	await take(trx, copy, [line], taken, true);
	if (line.reason !== null) {
		await leaveLedger(trx, [line]);
		return no(line.reason);
	}
	await admitWaiting(trx, copy, taken, nowMs, true);
	return { reason: null, source: line.source, topics: taken.topics };
}

/** What a person types in a machine's stead: the same gate, the same record, and who typed it. One that is refused is not kept: the form still has it. */
export async function typeMessage(actor: Actor, lineId: number, said: AnyMessage, words: string): Promise<void> {
	const nowMs = await plantNow();
	await transactionWithCopy(async (trx, copy) => {
		const one = await takeOne(trx, copy, JSON.stringify(said), nowMs);
		if (one.reason !== null) refuse('report', said.panel ?? '', `Not taken: ${one.reason}.`);
		await addCounts(trx, one.source, { received: 1, accepted: 1, duplicates: 0, quarantined: 0 }, nowMs);
		await logAction(trx, actor, 'message.type', `${said.source}: ${words}${said.panel ? `, ${said.panel}` : ''}`, null, lineId);
		for (const topic of one.topics) await announce(trx, topic);
	});
}
