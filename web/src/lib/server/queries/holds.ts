import { violationWords } from '@keen-relay/core/paste';
import type { Action } from '@keen-relay/core/people';
import { jarQuarantine, type Hold } from '@keen-relay/core/trace';
import type { StationRole } from '$lib/stations/index.ts';
import { refuse } from '../answer.ts';
import { announce, db, type Db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { jarsNow } from './jars.ts';

/** Where a hold was raised, where that is known. */
interface RaisedAt {
	lineId: number | null;
	passId: number | null;
	printAttempt: number | null;
}

/** Puts things on hold. What is held for the same reason already stays as it is. */
export async function raiseHolds(trx: Trx, holds: readonly (Hold & RaisedAt)[]): Promise<void> {
	if (holds.length === 0) return;
	const raised = await trx
		.insertInto('hold')
		.values(
			holds.map(({ kind, subject, code, why, sinceMs, obeys, lifts, lineId, passId, printAttempt }) => ({
				kind,
				subject,
				code,
				why,
				since: new Date(sinceMs),
				obeys: obeys as StationRole[],
				lifts,
				lineId,
				passId,
				printAttempt
			}))
		)
		.onConflict((c) => c.columns(['kind', 'subject', 'code']).where('liftedAt', 'is', null).doNothing())
		.returning('id')
		.execute();
	if (raised.length) await announce(trx, 'line');
}

/** What is held, the newest first. */
export function openHolds(where: { lineId?: number; role?: StationRole } = {}, trx: Db | Trx = db) {
	return trx
		.selectFrom('hold')
		.select(['id', 'kind', 'subject', 'code', 'why', 'since', 'obeys', 'lifts', 'lineId', 'passId', 'printAttempt'])
		.where('liftedAt', 'is', null)
		.$if(where.lineId !== undefined, (q) => q.where('lineId', '=', where.lineId!))
		.$if(where.role !== undefined, (q) => q.where(({ eb, fn, val }) => eb(val(where.role!), '=', fn.any('obeys'))))
		.orderBy('since', 'desc')
		.orderBy('id', 'desc')
		.execute();
}

export type OpenHold = Awaited<ReturnType<typeof openHolds>>[number];

/** Holds that were lifted last, with who lifted them and how. */
export function liftedHolds(limit: number) {
	return db
		.selectFrom('hold')
		.leftJoin('user', 'user.id', 'hold.liftedBy')
		.select([
			'hold.id',
			'kind',
			'subject',
			'why',
			'since',
			'liftedAt',
			'liftedHow',
			'liftNote',
			'user.name as liftedBy',
			'lineId',
			'passId'
		])
		.where('liftedAt', 'is not', null)
		.orderBy('liftedAt', 'desc')
		.orderBy('hold.id', 'desc')
		.limit(limit)
		.execute();
}

/** Lifts holds that something else has settled: a panel that was printed again and passed, a jar that was reviewed or discarded. */
export async function settleHolds(
	trx: Trx,
	ids: readonly number[],
	{ at, how, personId = null }: { at: Date; how: string; personId?: string | null }
): Promise<void> {
	if (ids.length === 0) return;
	await trx
		.updateTable('hold')
		.set({ liftedAt: at, liftedHow: how, liftedBy: personId })
		.where('id', 'in', ids)
		.where('liftedAt', 'is', null)
		.execute();
	await announce(trx, 'line');
}

/** The hold that somebody wants to lift; refused where there is none, or it was lifted.
 * @returns it, with the right that lifts it
 */
export async function holdToLift(id: number): Promise<OpenHold & { lifts: Action }> {
	const hold = await db.selectFrom('hold').selectAll().where('id', '=', id).executeTakeFirst();
	if (!hold) return refuse('hold', id, 'There is no such hold.');
	if (hold.liftedAt) return refuse('hold', hold.subject, `The hold of ${hold.subject} was lifted already.`);
	if (hold.kind === 'jar') return refuse('hold', hold.subject, `${hold.subject} is reviewed on its own page: keep or discard it there.`);
	return hold;
}

/** Lets something go on that was held, with the reason of who takes it on. */
export async function liftHold(actor: Actor, id: number, note: string): Promise<{ id: number; subject: string }> {
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const hold = await trx.selectFrom('hold').selectAll().where('id', '=', id).forUpdate().executeTakeFirstOrThrow();
		if (hold.liftedAt) return refuse('hold', hold.subject, `The hold of ${hold.subject} was lifted meanwhile.`);
		await trx
			.updateTable('hold')
			.set({ liftedAt: at, liftedHow: 'leave', liftedBy: actor.id, liftedApprovedBy: actor.approvedBy, liftNote: note })
			.where('id', '=', id)
			.execute();
		await logAction(trx, actor, 'hold.lift', `${hold.subject}: ${note}`, null, hold.lineId);
		await announce(trx, 'line');
		await announce(trx, 'results');
		return { id, subject: hold.subject };
	});
}

/** Jars in quarantine are held, and no longer than that: what their clocks brought about is written down when it is seen.
 * @param by who did what ended it
 */
export async function keepJarHolds(by: { id: string } | null = null): Promise<void> {
	const nowMs = await plantNow();
	const [jars, open] = await Promise.all([jarsNow(nowMs), openHolds({ role: 'print' })]);
	const held = open.filter((hold) => hold.kind === 'jar');
	const quarantined = jars.filter((jar) => jar.status.state === 'quarantined');
	const over = held.filter((hold) => !quarantined.some((jar) => jar.facts.id === hold.subject));
	const fresh = quarantined.filter((jar) => !held.some((hold) => hold.subject === jar.facts.id));
	if (over.length + fresh.length === 0) return;
	await db.transaction().execute(async (trx) => {
		await raiseHolds(
			trx,
			fresh.map(({ facts, status }) => {
				const since = status.violations.findLast((v) => status.quarantine.includes(v.code))?.atMs ?? nowMs;
				return {
					...jarQuarantine(facts.id, status.quarantine.map(violationWords), since),
					lineId: null,
					passId: null,
					printAttempt: null
				};
			})
		);
		for (const hold of over) {
			const state = jars.find((jar) => jar.facts.id === hold.subject)?.status.state;
			const how = state === undefined || state === 'discarded' ? 'discarded' : state === 'empty' ? 'used up' : 'reviewed and kept';
			await settleHolds(trx, [hold.id], { at: new Date(nowMs), how, personId: by?.id ?? null });
		}
	});
}

/** How often the clocks of jars are looked at, real ms. */
const JARS_EVERY_MS = 15_000;

/** Jars that run out while nobody scans them are held all the same. */
export function watchJarHolds(): void {
	setInterval(() => void keepJarHolds().catch(() => undefined), JARS_EVERY_MS).unref();
}
