import type { Issue } from '@keen-relay/core/judgement';
import { FIRST_PRINTS } from '@keen-relay/core/printing';
import { boardSide, released } from '../db/boards.ts';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../line/clock.ts';
import { logAction, type Actor } from '../people/log.ts';
import { Refusal, refuse } from '../answer.ts';

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

/** What keeps a side from being run on a line; empty where it is ready. */
export async function missingForRun(sideId: number, lineId: number): Promise<string[]> {
	const [side, ready] = await Promise.all([boardSide(sideId), released(sideId, lineId)]);
	if (!side) return ['the board side'];
	const errors = side.findings.filter((finding) => finding.severity === 'error').length;
	return [
		...(errors ? [`${errors} open ${errors === 1 ? 'error' : 'errors'} of the reconciliation`] : []),
		...(side.panelSetBy ? [] : ['the panel layout']),
		...(ready.stencil ? [] : ['a released stencil']),
		...(ready.program ? [] : ['a released placement program']),
		...(ready.recipe ? [] : ['a released oven recipe'])
	];
}

/** Panels of a job that wait for their second pass: finished on one side, not yet printed on this one; in the order they came off. */
export function waitingPanels(jobId: number, sideId: number) {
	return db
		.selectFrom('panel')
		.innerJoin('panelPass', 'panelPass.panelId', 'panel.id')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.select(['panel.serial'])
		.where('panel.jobId', '=', jobId)
		.where('run.boardSideId', '!=', sideId)
		.where('panelPass.finishedAt', 'is not', null)
		.where(({ not, exists, selectFrom }) =>
			not(
				exists(
					selectFrom('panelPass as other')
						.innerJoin('run as otherRun', 'otherRun.id', 'other.runId')
						.select('other.id')
						.whereRef('other.panelId', '=', 'panel.id')
						.where('otherRun.boardSideId', '=', sideId)
				)
			)
		)
		.orderBy('panelPass.finishedAt')
		.execute();
}

/** The run of a job's other side, where one was started: this side then takes the panels that come from there. */
function otherSideRun(jobId: number, sideId: number) {
	return db
		.selectFrom('run')
		.select(['id', 'startedAt'])
		.where('jobId', '=', jobId)
		.where('boardSideId', '!=', sideId)
		.orderBy('startedAt')
		.executeTakeFirst();
}

/** Starts one side of a job on a line with what is released now; the run keeps those revisions. */
export async function startRun(actor: Actor, jobId: number, sideId: number, lineId: number): Promise<{ id: number }> {
	const job = await db
		.selectFrom('job')
		.innerJoin('boardSide', 'boardSide.boardRevisionId', 'job.boardRevisionId')
		.select(['job.number', 'job.withdrawnAt', 'boardSide.side'])
		.where('job.id', '=', jobId)
		.where('boardSide.id', '=', sideId)
		.executeTakeFirst();
	if (!job) return refuse('job', jobId, 'There is no such job with this board side.');
	if (job.withdrawnAt) return refuse('job', job.number, `${job.number} was withdrawn.`);
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
				startedBy: actor.id,
				startedAt: at,
				endedBy: null,
				endedAt: null
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, actor, 'run.start', `${job.number}, ${job.side}`, null, lineId);
		await announce(trx, 'runs');
		await announce(trx, 'line');
		return row;
	});
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

/** The run that a line is building, with the revisions it was started with. */
export async function currentRun(lineId: number) {
	const run = await runs().where('run.lineId', '=', lineId).where('run.endedAt', 'is', null).executeTakeFirst();
	return run ? withCounts(run) : null;
}

/** A run that has ended but left panels on the line: they still go through. */
export async function drainingRun(lineId: number) {
	const run = await runs()
		.where('run.lineId', '=', lineId)
		.where(({ exists, selectFrom }) =>
			exists(
				selectFrom('panelPass').select('panelPass.id').whereRef('panelPass.runId', '=', 'run.id').where('panelPass.finishedAt', 'is', null)
			)
		)
		.orderBy('run.startedAt', 'desc')
		.executeTakeFirst();
	return run ? withCounts(run) : null;
}

function withCounts<
	T extends {
		printed: number | null;
		finished: number | null;
		panels: number;
		waiting: number | null;
		second: number | null;
		firstPrintAt: Date | null;
		firstPrintsMore: number;
		endedAt: Date | null;
	}
>(run: T) {
	const printed = run.printed ?? 0;
	const mayPrint = run.firstPrintAt === null ? FIRST_PRINTS + run.firstPrintsMore : null;
	// A second side has the panels that came off the first, however many the job asked for.
	return {
		...run,
		printed,
		finished: run.finished ?? 0,
		panels: run.second ? printed + (run.waiting ?? 0) : run.panels,
		secondPass: run.second !== null,
		mayPrint,
		/** The printer waits until a person has released the first prints. */
		held: run.endedAt === null && mayPrint !== null && printed >= mayPrint
	};
}

function runs() {
	return db
		.selectFrom('run')
		.innerJoin('job', 'job.id', 'run.jobId')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
		.innerJoin('placementProgram', 'placementProgram.id', 'run.placementProgramId')
		.innerJoin('ovenRecipe', 'ovenRecipe.id', 'run.ovenRecipeId')
		.select((eb) => [
			'run.id',
			'run.jobId',
			'run.boardSideId',
			'run.startedAt',
			'run.endedAt',
			'run.firstPrintAt',
			'run.firstPrintsMore',
			'job.number',
			'job.panels',
			'boardRevision.name as board',
			'boardRevision.revision as boardRevision',
			'boardSide.side',
			// As it was measured, where it was: the label says it to 5 to 8 %.
			eb.fn.coalesce('stencilTool.measuredUm', 'stencil.foilUm').as('foilUm'),
			'stencil.revision as stencilRevision',
			'placementProgram.plan',
			'placementProgram.revision as programRevision',
			'ovenRecipe.recipe',
			'ovenRecipe.usePct',
			'ovenRecipe.verdict as ovenVerdict',
			'ovenRecipe.revision as recipeRevision',
			eb
				.selectFrom('panelPass')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('panelPass.runId', '=', 'run.id')
				.as('printed'),
			eb
				.selectFrom('panelPass')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('panelPass.runId', '=', 'run.id')
				.where('panelPass.finishedAt', 'is not', null)
				.as('finished'),
			// The run of the job's other side, if it came first.
			eb
				.selectFrom('run as first')
				.select(({ fn }) => fn.min<number>('first.id').as('id'))
				.whereRef('first.jobId', '=', 'run.jobId')
				.whereRef('first.boardSideId', '!=', 'run.boardSideId')
				.whereRef('first.startedAt', '<', 'run.startedAt')
				.as('second'),
			eb
				.selectFrom('panelPass as came')
				.innerJoin('run as from', 'from.id', 'came.runId')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('from.jobId', '=', 'run.jobId')
				.whereRef('from.boardSideId', '!=', 'run.boardSideId')
				.where('came.finishedAt', 'is not', null)
				.where(({ not, exists, selectFrom }) =>
					not(
						exists(
							selectFrom('panelPass as here')
								.innerJoin('run as hereRun', 'hereRun.id', 'here.runId')
								.select('here.id')
								.whereRef('here.panelId', '=', 'came.panelId')
								.whereRef('hereRun.boardSideId', '=', 'run.boardSideId')
						)
					)
				)
				.as('waiting')
		]);
}
