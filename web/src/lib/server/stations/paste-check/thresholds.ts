import { baselineOf, checkThresholds, SIGNATURE_THRESHOLDS, type SignatureThresholds } from '@keen-relay/core/inspection';
import { refuse } from '../../answer.ts';
import { announce, db, lockRevisions, type Db, type Trx } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { passedRun } from '../../queries/readings.ts';
import { latestRevision, refuseStale } from '../../queries/started-from.ts';

/** The thresholds that causes are named by now; the model's where nobody has set any. */
export async function currentThresholds(trx: Db | Trx = db): Promise<{ revision: number | null; thresholds: SignatureThresholds }> {
	const row = await trx.selectFrom('signatureThreshold').select(['revision', 'thresholds']).orderBy('revision', 'desc').executeTakeFirst();
	return row ?? { revision: null, thresholds: SIGNATURE_THRESHOLDS };
}

export function thresholdRevisions() {
	return db
		.selectFrom('signatureThreshold')
		.leftJoin('user', 'user.id', 'signatureThreshold.createdBy')
		.select(['signatureThreshold.revision', 'signatureThreshold.note', 'signatureThreshold.createdAt', 'user.name as by'])
		.orderBy('revision', 'desc')
		.limit(20)
		.execute();
}

/** Keeps a new revision; cases keep the one that named them. */
export async function keepThresholds(
	actor: Actor,
	thresholds: SignatureThresholds,
	note: string,
	startedFrom: number | null
): Promise<{ revision: number }> {
	checkThresholds(thresholds);
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await lockRevisions(trx, 'signature_threshold');
		refuseStale(startedFrom, await latestRevision(trx, 'signatureThreshold'), 'The thresholds');
		const revision = ((await currentThresholds(trx)).revision ?? 0) + 1;
		await trx
			.insertInto('signatureThreshold')
			.values({ revision, thresholds: JSON.stringify(thresholds), note, createdBy: actor.id, createdAt: at })
			.execute();
		await logAction(trx, actor, 'signature.tune', `revision ${revision}${note ? `: ${note}` : ''}`);
		await announce(trx, 'results');
		return { revision };
	});
}

/** The approved baseline of a side on this foil: what its pads carry when all is well. */
export async function currentGolden(boardSideId: number, foilUm: number) {
	const row = await db
		.selectFrom('goldenBaseline')
		.leftJoin('user', 'user.id', 'goldenBaseline.createdBy')
		.selectAll('goldenBaseline')
		.select('user.name as by')
		.where('boardSideId', '=', boardSideId)
		.orderBy('goldenBaseline.id', 'desc')
		.executeTakeFirst();
	// A baseline of another foil says nothing about this one.
	return row && !row.withdrawnAt && Math.abs(row.foilUm - foilUm) < 2 ? row : null;
}

/** Panels that a baseline is taken from at least. */
const BASELINE_PANELS = 12;

/** Approves a run's pads as the baseline of its side: each pad's median over the panels that passed. */
export async function keepGolden(actor: Actor, runId: number): Promise<{ panels: number }> {
	const row = await db.selectFrom('run').select(['boardSideId', 'lineId']).where('id', '=', runId).executeTakeFirst();
	if (!row) return refuse('run', runId, 'There is no such run.');
	const run = await passedRun(runId);
	if (!run || run.panels.length < BASELINE_PANELS)
		return refuse(
			'run',
			runId,
			`A baseline needs ${BASELINE_PANELS} panels that passed with their pads kept; there are ${run?.panels.length ?? 0}.`
		);
	const efficiency = baselineOf(run);
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		await trx
			.insertInto('goldenBaseline')
			.values({
				boardSideId: row.boardSideId,
				foilUm: run.foilUm,
				efficiency,
				panels: run.panels.length,
				runId,
				createdBy: actor.id,
				createdAt: at,
				withdrawnAt: null
			})
			.execute();
		await logAction(trx, actor, 'signature.tune', `baseline from ${run.panels.length} panels`, null, row.lineId);
		await announce(trx, 'results');
	});
	return { panels: run.panels.length };
}

/** Goes back to the transfer model for a side. */
export async function withdrawGolden(actor: Actor, boardSideId: number): Promise<void> {
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		const gone = await trx
			.updateTable('goldenBaseline')
			.set({ withdrawnAt: at })
			.where('boardSideId', '=', boardSideId)
			.where('withdrawnAt', 'is', null)
			.returning('id')
			.execute();
		if (gone.length === 0) refuse('side', boardSideId, 'This side has no baseline.');
		await logAction(trx, actor, 'signature.tune', 'baseline withdrawn');
		await announce(trx, 'results');
	});
}
