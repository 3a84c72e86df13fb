import type { Issue } from '@keen-relay/core/judgement';
import { OVERRIDE_MS, refusesOverride, type ReadyCode } from '@keen-relay/core/line';
import { released } from '../queries/sides.ts';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { Refusal, refuse } from '../answer.ts';
import { machinesNow } from '../queries/stations.ts';
import { currentRun, missingForRun, otherSideRun, waitingPanels } from '../queries/runs.ts';
import { feedFrom, leftInPlace } from '../queries/slots.ts';
import { firstBoardModeOf } from './first-board.ts';
import { readinessOf } from '../stations/print/ready.ts';

export async function createJob(
	actor: Actor,
	job: { number: string; boardRevisionId: number; panels: number }
): Promise<{ id: number; actionId: number }> {
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { id } = await trx
			.insertInto('job')
			.values({ ...job, createdBy: actor.id, createdAt: at, withdrawnAt: null })
			.returning('id')
			.executeTakeFirstOrThrow();
		const actionId = await logAction(trx, actor, 'job.create', `${job.number}, ${job.panels} panels`, { kind: 'job', jobId: id });
		await announce(trx, 'runs');
		return { id, actionId };
	});
}

/** Begins one side of a job on a line with what is released now; the run keeps those revisions. Nothing is printed before its set-up is proven. */
export async function startRun(actor: Actor, jobId: number, sideId: number, lineId: number): Promise<{ id: number }> {
	const job = await db
		.selectFrom('job')
		.innerJoin('boardSide', 'boardSide.boardRevisionId', 'job.boardRevisionId')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.select(['job.number', 'job.panels', 'job.withdrawnAt', 'boardSide.side', 'boardRevision.customer'])
		.where('job.id', '=', jobId)
		.where('boardSide.id', '=', sideId)
		.executeTakeFirst();
	if (!job) return refuse('job', jobId, 'There is no such job with this board side.');
	if (job.withdrawnAt) return refuse('job', job.number, `${job.number} was withdrawn.`);
	const line = await db.selectFrom('line').select(['name', 'outOfUseAt']).where('id', '=', lineId).executeTakeFirst();
	if (!line || line.outOfUseAt)
		return refuse('line', line?.name ?? lineId, line ? `${line.name} is out of use.` : 'There is no such line.');
	const busy = await db
		.selectFrom('run')
		.innerJoin('job', 'job.id', 'run.jobId')
		.select('job.number')
		.where('run.lineId', '=', lineId)
		.where('run.endedAt', 'is', null)
		.executeTakeFirst();
	if (busy) return refuse('line', lineId, `The line is building ${busy.number}. End that run first.`);
	const missing = await missingForRun(sideId, lineId);
	const before = await otherSideRun(jobId, sideId);
	if (before && (await waitingPanels(jobId, sideId)).length === 0) missing.push('a panel that is finished on its first side');
	if (missing.length)
		throw new Refusal(
			missing.map((what): Issue => ({
				severity: 'error',
				code: 'not_ready',
				field: 'job',
				value: job.number,
				message: `${job.number} cannot start: ${what} is missing.`
			}))
		);
	const { stencil, program, recipe } = await released(sideId, lineId);
	const printing = await db
		.selectFrom('printRecipe')
		.select('id')
		.where('boardSideId', '=', sideId)
		.where('lineId', '=', lineId)
		.where('status', '=', 'released')
		.executeTakeFirst();
	const at = new Date(await plantNow());
	const loads = await leftInPlace(lineId, { plan: program!.plan, panels: job.panels, customer: job.customer }, at.getTime());
	return db.transaction().execute(async (trx) => {
		const row = await trx
			.insertInto('run')
			.values({
				jobId,
				boardSideId: sideId,
				lineId,
				stencilId: stencil!.id,
				placementProgramId: program!.id,
				ovenRecipeId: recipe!.id,
				printRecipeId: printing?.id ?? null,
				machines: JSON.stringify(await machinesNow(lineId)),
				startedBy: actor.id,
				startedAt: at,
				endedBy: null,
				endedAt: null
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await feedFrom(trx, row.id, loads, at.getTime());
		await logAction(trx, actor, 'run.setUp', `${job.number}, ${job.side}`, null, lineId);
		await announce(trx, 'runs');
		await announce(trx, 'line');
		return row;
	});
}

/** The run that is on, for somebody who starts it or lets it print without something. */
async function onRun(runId: number) {
	const row = await db.selectFrom('run').select(['lineId', 'endedAt']).where('id', '=', runId).executeTakeFirst();
	const run = row && row.endedAt === null ? await currentRun(row.lineId) : null;
	if (!row || !run) return refuse('run', runId, 'This run is not going on.');
	return { run, lineId: row.lineId };
}

/** Lets the printer begin: refused while a point of the set-up is neither proven nor overridden. What was found is kept with the run. */
export async function startPrinting(actor: Actor, runId: number): Promise<{ id: number; statement: string }> {
	const nowMs = await plantNow();
	const { run, lineId } = await onRun(runId);
	if (run.readyAt !== null) return refuse('run', run.number, `${run.number} prints already.`);
	const ready = await readinessOf(run, lineId, nowMs);
	if (ready.missing.length)
		throw new Refusal(
			ready.missing.map((item): Issue => ({
				severity: 'error',
				code: `not_ready_${item.code}`,
				field: item.code,
				value: item.mark,
				message: `${item.name}: ${item.why} ${item.next ?? ''}`.trim()
			}))
		);
	const { mode, why } = await firstBoardModeOf(run, lineId, nowMs);
	await db.transaction().execute(async (trx) => {
		const begun = await trx
			.updateTable('run')
			.set({ readyAt: new Date(nowMs), readyBy: actor.id, ready: JSON.stringify(ready.items), firstBoard: mode, firstBoardWhy: why })
			.where('id', '=', runId)
			.where('readyAt', 'is', null)
			.where('endedAt', 'is', null)
			.returning('id')
			.executeTakeFirst();
		if (!begun) refuse('run', run.number, `${run.number} was started meanwhile.`);
		await logAction(trx, actor, 'run.start', `${run.number}, ${run.side}`, null, lineId);
		await announce(trx, 'runs');
		await announce(trx, 'line');
	});
	return { id: runId, statement: ready.verdict.statement };
}

/** A lead lets a line print without some of its set-up, for half an hour or for the run. What must never run is refused. */
export async function overrideReady(
	actor: Actor,
	runId: number,
	{ codes, reason, wholeRun }: { codes: ReadyCode[]; reason: string; wholeRun: boolean }
): Promise<{ untilAt: string | null }> {
	const nowMs = await plantNow();
	const { run, lineId } = await onRun(runId);
	const { items } = await readinessOf(run, lineId, nowMs);
	const why = refusesOverride(items, codes, reason, wholeRun);
	if (why) return refuse('override', codes.join(', '), why);
	const untilAt = wholeRun ? null : new Date(nowMs + OVERRIDE_MS);
	await db.transaction().execute(async (trx) => {
		await trx
			.insertInto('runOverride')
			.values({ runId, codes, reason, personId: actor.id, approvedBy: actor.approvedBy, at: new Date(nowMs), untilAt })
			.execute();
		const names = items.filter((i) => codes.includes(i.code)).map((i) => i.name.toLowerCase());
		await logAction(trx, actor, 'run.override', `${run.number}, without ${names.join(', ')}: ${reason}`, null, lineId);
		await announce(trx, 'runs');
		await announce(trx, 'line');
	});
	return { untilAt: untilAt?.toISOString() ?? null };
}

export async function endRun(actor: Actor, runId: number): Promise<{ actionId: number }> {
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const run = await trx
			.updateTable('run')
			.set({ endedAt: at, endedBy: actor.id })
			.where('id', '=', runId)
			.where('endedAt', 'is', null)
			.returning(['jobId', 'lineId'])
			.executeTakeFirst();
		if (!run) return refuse('run', runId, 'This run is not going on.');
		const job = await trx.selectFrom('job').select('number').where('id', '=', run.jobId).executeTakeFirstOrThrow();
		const actionId = await logAction(trx, actor, 'run.end', job.number, { kind: 'runEnd', runId }, run.lineId);
		await announce(trx, 'runs');
		await announce(trx, 'line');
		return { actionId };
	});
}
