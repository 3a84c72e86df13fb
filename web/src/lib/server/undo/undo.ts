import { type Action } from '@keen-relay/core/people';
import type { Undo } from '$lib/model/types.ts';
import { refuse } from '../answer.ts';
import { WITHDRAWN } from '../queries/packages.ts';
import { refuseBuilt } from '../boards/keep-board.ts';
import { announce, db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { rightsChanged, writeRule } from '../people/rights.ts';

export async function actionById(id: number) {
	const row = await db.selectFrom('actionLog').selectAll().where('id', '=', id).executeTakeFirst();
	return row ?? refuse('action', id, 'There is no such record.');
}

/** Reverses an action by a record of its own: what was done stays written. Refused where something was built on it since. */
export async function undoAction(actor: Actor, id: number): Promise<void> {
	const row = await actionById(id);
	const undo = row.undo;
	if (!undo) return refuse('action', row.subject, 'This cannot be undone: it is a fact, or product was released or scrapped by it.');
	await db.transaction().execute(async (trx) => {
		const before = await trx.selectFrom('actionLog').select('id').where('reverses', '=', id).executeTakeFirst();
		if (before) return refuse('action', row.subject, 'This was undone already.');
		await REVERSE[undo.kind](trx, actor, undo as never);
		const record = await logAction(trx, actor, row.action as Action, `undone: ${row.subject}`);
		await trx.updateTable('actionLog').set({ reverses: id }).where('id', '=', record).execute();
		for (const topic of ['boards', 'runs', 'line', 'shift', 'people'] as const) await announce(trx, topic);
	});
	if (undo.kind === 'rights') rightsChanged();
}

type Reversals = { [K in Undo['kind']]: (trx: Trx, actor: Actor, undo: Extract<Undo, { kind: K }>) => Promise<void> };

const REVERSE: Reversals = {
	async release(trx, _actor, { table, id, previousId }) {
		const column = { stencil: 'stencilId', placementProgram: 'placementProgramId', ovenRecipe: 'ovenRecipeId' } as const;
		const used = await trx
			.selectFrom('run')
			.innerJoin('job', 'job.id', 'run.jobId')
			.select('job.number')
			.where(`run.${column[table]}`, '=', id)
			.executeTakeFirst();
		if (used) return refuse('release', used.number, `${used.number} was started with it: release another revision instead.`);
		const set = async (row: number, from: 'released' | 'retired', to: 'released' | 'retired') =>
			trx
				.updateTable(table as 'stencil')
				.set({ status: to })
				.where('id', '=', row)
				.where('status', '=', from)
				.executeTakeFirst();
		const done = await set(id, 'released', 'retired');
		if (done.numUpdatedRows === 0n) return refuse('release', id, 'A later revision has been released since: undo that one first.');
		if (previousId !== null) await set(previousId, 'retired', 'released');
	},
	async panel(trx, _actor, { revisionId, panel, panelSetBy }) {
		await refuseBuilt(revisionId, 'panel');
		await trx
			.updateTable('boardRevision')
			.set((eb) => ({ panelRevision: eb('panelRevision', '+', 1) }))
			.where('id', '=', revisionId)
			.execute();
		await trx
			.updateTable('boardSide')
			.set({ panel: JSON.stringify(panel), panelSetBy })
			.where('boardRevisionId', '=', revisionId)
			.execute();
	},
	async package(trx, actor, { packageName, field, before }) {
		await trx
			.insertInto('packageFact')
			.values({
				packageName,
				field,
				value: before?.value ?? null,
				source: before?.source ?? WITHDRAWN,
				setBy: actor.id,
				setAt: new Date(await plantNow())
			})
			.execute();
	},
	async runEnd(trx, _actor, { runId }) {
		const run = await trx.selectFrom('run').select('lineId').where('id', '=', runId).executeTakeFirstOrThrow();
		const busy = await trx.selectFrom('run').select('id').where('lineId', '=', run.lineId).where('endedAt', 'is', null).executeTakeFirst();
		if (busy) return refuse('run', runId, 'Another run goes on at this line. End that one first.');
		await trx.updateTable('run').set({ endedAt: null, endedBy: null }).where('id', '=', runId).execute();
	},
	async job(trx, _actor, { jobId }) {
		const run = await trx.selectFrom('run').select('id').where('jobId', '=', jobId).executeTakeFirst();
		if (run) return refuse('job', jobId, 'The job has been started: end its run instead.');
		await trx
			.updateTable('job')
			.set({ withdrawnAt: new Date(await plantNow()) })
			.where('id', '=', jobId)
			.execute();
	},
	async stopReason(trx, _actor, { id }) {
		await trx.updateTable('stopReason').set({ withdrawn: true }).where('id', '=', id).execute();
	},
	async note(trx, _actor, { lineId, date, shift, before }) {
		const sheet = trx
			.selectFrom('handOver')
			.select(['id', 'outgoingId'])
			.where('lineId', '=', lineId)
			.where('shiftDate', '=', date)
			.where('shiftName', '=', shift);
		const row = await sheet.executeTakeFirstOrThrow();
		if (row.outgoingId) return refuse('note', date, 'The hand-over is signed; its note stands.');
		await trx
			.updateTable('handOver')
			.set({ note: before ?? '' })
			.where('id', '=', row.id)
			.execute();
	},
	async rights(trx, actor, { action, before }) {
		await writeRule(trx, actor.id, action, before);
	},
	async trim(trx, _actor, { id }) {
		await trx
			.updateTable('trim')
			.set({ undoneAt: new Date(await plantNow()) })
			.where('id', '=', id)
			.execute();
	},
	async quarantine(trx, _actor, { id }) {
		await trx.updateTable('messageQuarantine').set({ state: 'open', settledBy: null, settledAt: null }).where('id', '=', id).execute();
	}
};
