import { checkLimits, DEPOSIT_LIMITS, widened, type LimitSet } from '@keen-relay/core/inspection';
import { db, lockRevisions, type Db, type Trx } from '../../db/index.ts';
import { latestRevision, refuseStale } from '../../queries/started-from.ts';
import { plantNow } from '../../plant/clock.ts';

export interface CurrentLimits {
	/** null: nobody has set any yet, the values to start from hold. */
	revision: number | null;
	limits: LimitSet;
}

/** The limits that hold now, by class. */
export async function currentLimits(trx: Db | Trx): Promise<CurrentLimits> {
	const row = await trx.selectFrom('pasteLimit').select(['revision', 'limits']).orderBy('revision', 'desc').executeTakeFirst();
	return row ?? { revision: null, limits: DEPOSIT_LIMITS };
}

/** The limits of a revision, as they judged what was measured under them; null: nobody had set any. */
export async function limitsOfRevision(revision: number | null): Promise<LimitSet> {
	if (revision === null) return DEPOSIT_LIMITS;
	const { limits } = await db.selectFrom('pasteLimit').select('limits').where('revision', '=', revision).executeTakeFirstOrThrow();
	return limits;
}

export function limitRevisions() {
	return db
		.selectFrom('pasteLimit')
		.leftJoin('user as u', 'u.id', 'pasteLimit.createdBy')
		.leftJoin('user as a', 'a.id', 'pasteLimit.approvedBy')
		.select(['pasteLimit.revision', 'pasteLimit.note', 'pasteLimit.createdAt', 'u.name as by', 'a.name as approvedBy'])
		.orderBy('revision', 'desc')
		.limit(20)
		.execute();
}

/** Which places of new limits let through what the present ones stop: such a change needs an approver. */
export async function wideningOf(limits: LimitSet): Promise<string[]> {
	checkLimits(limits);
	return widened((await currentLimits(db)).limits, limits);
}

/** Keeps a new revision; results measured before keep the one that judged them. */
export async function keepLimits(
	trx: Trx,
	limits: LimitSet,
	note: string,
	personId: string,
	approvedBy: string | null,
	startedFrom: number | null
): Promise<number> {
	checkLimits(limits);
	await lockRevisions(trx, 'paste_limit');
	refuseStale(startedFrom, await latestRevision(trx, 'pasteLimit'), 'The paste limits');
	const revision = ((await currentLimits(trx)).revision ?? 0) + 1;
	await trx
		.insertInto('pasteLimit')
		.values({ revision, limits: JSON.stringify(limits), note, createdBy: personId, approvedBy, createdAt: new Date(await plantNow()) })
		.execute();
	return revision;
}
