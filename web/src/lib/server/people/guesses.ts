import type { RequestEvent } from '@sveltejs/kit';
import { sql } from 'kysely';
import { Guessing, keysOf, type Counted, type Try } from '@keen-relay/core/people';
import { db } from '../db/index.ts';
import { TooMany } from '../answer.ts';
import { plantNow } from '../plant/clock.ts';
import { STATION_COOKIE } from './station-pc.ts';
import { hashOf, newSecret } from './tokens.ts';

const SCREEN_COOKIE = 'keen_screen';
const YEAR_S = 365 * 24 * 3600;
/** A badge as it is counted and written down, whatever somebody typed. */
const shortBadge = (badge: string) => badge.trim().toLowerCase().slice(0, 64);

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Who tries a PIN, and where: all that the limits of guessing go by. */
export interface Asking {
	badge: string;
	address: string;
	/** Hash of the secret that this browser shows; null where it shows none. */
	screen: string | null;
	stationPc: string | null;
	/** What the PIN was asked for. */
	doing: string;
}

/** What a request says of the screen that it comes from. */
export function askingAt(event: RequestEvent, badge: string, doing: string): Asking {
	const secret = event.cookies.get(SCREEN_COOKIE) ?? event.cookies.get(STATION_COOKIE);
	return {
		badge: shortBadge(badge),
		address: addressOf(event),
		screen: secret && secret.length <= 200 ? hashOf(secret) : null,
		stationPc: event.locals.stationPc?.name ?? null,
		doing
	};
}

/** Where a request comes from. */
function addressOf(event: RequestEvent): string {
	try {
		return event.getClientAddress();
	} catch {
		return 'unknown';
	}
}

/** Tries a PIN within the limits of guessing. The right one is answered at once, a wrong one later and later; what fails stands in the log.
 * @param tryIt answers null where badge and PIN do not go together
 * @throws {TooMany} where no try is left
 */
export async function tryPin<T>(asking: Asking, tryIt: () => Promise<T | null>): Promise<T | null> {
	const { badge, address, screen } = asking;
	// A shared screen of the plant is known to everybody who works at it.
	const known = asking.stationPc !== null || (await isKnown(asking));
	const of: Try = { person: badge, address, screen: screen ?? address, known };
	const afterS = await counting(of, (guessing, nowMs) => guessing.take(of, nowMs));
	if (afterS > 0) {
		await writeDown(asking, false);
		throw new TooMany(afterS);
	}
	const result = await tryIt();
	if (result !== null) {
		await counting(of, (guessing, nowMs) => guessing.right(of, nowMs));
		return result;
	}
	await writeDown(asking, true);
	await wait(await counting(of, (guessing, nowMs) => guessing.wrong(of, nowMs)));
	return null;
}

/** What was counted longer ago has come back whole. */
const COUNTED_MS = 24 * 3_600_000;

/** Counts one try together with every other process of the plant: one at a time, and briefly. */
async function counting<T>(of: Try, count: (guessing: Guessing, nowMs: number) => T): Promise<T> {
	const keys = keysOf(of);
	return db.transaction().execute(async (trx) => {
		await sql`select pg_advisory_xact_lock(hashtext('guessing'))`.execute(trx);
		const nowMs = Date.now();
		await trx
			.deleteFrom('guessCount')
			.where('at', '<', new Date(nowMs - COUNTED_MS))
			.execute();
		const rows = await trx.selectFrom('guessCount').selectAll().where('key', 'in', keys).execute();
		const kept = new Map<string, Counted>(rows.map(({ key, n, at }) => [key, { n, atMs: at.getTime() }]));
		const result = count(new Guessing(kept), nowMs);
		const gone = keys.filter((key) => !kept.has(key));
		if (gone.length) await trx.deleteFrom('guessCount').where('key', 'in', gone).execute();
		if (kept.size)
			await trx
				.insertInto('guessCount')
				.values([...kept].map(([key, { n, atMs }]) => ({ key, n, at: new Date(atMs) })))
				.onConflict((c) => c.column('key').doUpdateSet((eb) => ({ n: eb.ref('excluded.n'), at: eb.ref('excluded.at') })))
				.execute();
		return result;
	});
}

async function isKnown({ badge, screen }: Asking): Promise<boolean> {
	if (screen === null) return false;
	const row = await db
		.selectFrom('knownScreen')
		.innerJoin('user', 'user.id', 'knownScreen.personId')
		.select('knownScreen.hash')
		.where('knownScreen.hash', '=', screen)
		.where('user.username', '=', badge)
		.executeTakeFirst();
	return row !== undefined;
}

/** A try that was not answered is written down once a minute: a flood of them is no flood of records. */
let writtenAt = 0;
async function writeDown({ badge, address, stationPc, doing }: Asking, answered: boolean): Promise<void> {
	if (!answered && Date.now() - writtenAt < 60_000) return;
	if (!answered) writtenAt = Date.now();
	await db
		.insertInto('failedTry')
		.values({ at: new Date(await plantNow()), badge, address, stationPc, doing, answered })
		.execute();
}

/** Remembers that a person signed in at this browser, and gives it a secret to be known by.
 * @returns the cookie, where it is a new one
 */
export async function rememberScreen(event: RequestEvent, badge: string): Promise<string | null> {
	const before = event.cookies.get(SCREEN_COOKIE);
	const secret = before && before.length <= 200 ? before : newSecret();
	const person = await db.selectFrom('user').select('id').where('username', '=', shortBadge(badge)).executeTakeFirst();
	if (person) await knowScreen(hashOf(secret), person.id);
	if (secret === before) return null;
	return event.cookies.serialize(SCREEN_COOKIE, secret, { path: '/', httpOnly: true, sameSite: 'strict', secure: false, maxAge: YEAR_S });
}

/** A person's PIN was right at a screen that shows a secret. */
export async function knowScreen(hash: string, personId: string): Promise<void> {
	const at = new Date();
	await db
		.insertInto('knownScreen')
		.values({ hash, personId, at })
		.onConflict((conflict) => conflict.columns(['hash', 'personId']).doUpdateSet({ at }))
		.execute();
}
