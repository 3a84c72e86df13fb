import { announce, db } from '../db/index.ts';
import { transactionWithCopy } from '../db/pinned.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { refuse } from '../answer.ts';
import { readmit } from './ingest.ts';

/** Counts of every source, by name. */
export function sources() {
	return db.selectFrom('messageSource').selectAll().orderBy('source').execute();
}

/** Messages kept aside that nobody has settled, newest first: of each source so many, that one which talks nonsense all day hides no other.
 * @param source only of this one
 */
export function openQuarantine(mostOfSource: number, source: string | null = null) {
	return db
		.selectFrom((open) =>
			open
				.selectFrom('messageQuarantine')
				.selectAll()
				.select(({ fn }) =>
					fn
						.agg<number>('row_number')
						.over((over) => over.partitionBy('source').orderBy('id', 'desc'))
						.as('nth')
				)
				.where('state', '=', 'open')
				.$if(source !== null, (query) => query.where('source', '=', source))
				.as('open')
		)
		.selectAll()
		.where('nth', '<=', mostOfSource)
		.orderBy('id', 'desc')
		.execute();
}

async function openRow(id: number) {
	const row = await db.selectFrom('messageQuarantine').selectAll().where('id', '=', id).where('state', '=', 'open').executeTakeFirst();
	return row ?? refuse('message', id, 'There is no such message in quarantine, or it is settled already.');
}

/** Admits a corrected message; what was received stays beside it. */
export async function readmitMessage(actor: Actor, id: number, text: string): Promise<void> {
	const row = await openRow(id);
	await transactionWithCopy(async (trx, copy) => {
		const reason = await readmit(trx, copy, row, text, actor.id);
		// The transaction ends here: what the attempt had begun is gone with it.
		if (reason !== null) refuse('message', text.slice(0, 60), `Not admitted: ${reason}.`);
		await logAction(trx, actor, 'message.settle', `admitted from quarantine: message ${id} of ${row.source ?? 'an unreadable source'}`);
		await announce(trx, 'machines');
	});
}

/** Leaves a message out for good. It stays stored and counted; undo opens it again. */
export async function dismissMessage(actor: Actor, id: number): Promise<{ actionId: number }> {
	const row = await openRow(id);
	const settledAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await trx.updateTable('messageQuarantine').set({ state: 'dismissed', settledBy: actor.id, settledAt }).where('id', '=', id).execute();
		const actionId = await logAction(trx, actor, 'message.settle', `left out: message ${id} of ${row.source ?? 'an unreadable source'}`, {
			kind: 'quarantine',
			id
		});
		await announce(trx, 'machines');
		return { actionId };
	});
}
