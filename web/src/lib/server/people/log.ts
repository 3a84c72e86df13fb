import type { Action } from '@keen-relay/core/judgement';
import type { Db, Trx } from '../db/index.ts';
import { plantNow } from '../line/clock.ts';

/** Writes down who did what, in the transaction that did it. */
export async function logAction(trx: Db | Trx, personId: string, action: Action, subject: string): Promise<void> {
	await trx
		.insertInto('actionLog')
		.values({ at: new Date(await plantNow()), personId, action, subject })
		.execute();
}
