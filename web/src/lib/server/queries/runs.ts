import { FIRST_PRINTS } from '@keen-relay/core/printing';
import { boardSide, released } from './sides.ts';
import { db, type Db, type Trx } from '../db/index.ts';

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
	return waitingFor(jobId, sideId).select(['panel.serial']).orderBy('panelPass.finishedAt').execute();
}

/** How many they are. */
export async function waitingCount(jobId: number, sideId: number): Promise<number> {
	const { n } = await waitingFor(jobId, sideId)
		.select(({ fn }) => fn.countAll<number>().as('n'))
		.executeTakeFirstOrThrow();
	return n;
}

function waitingFor(jobId: number, sideId: number) {
	return db
		.selectFrom('panel')
		.innerJoin('panelPass', 'panelPass.panelId', 'panel.id')
		.innerJoin('run', 'run.id', 'panelPass.runId')
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
		);
}

/** The run of a job's other side, where one was started: this side then takes the panels that come from there. */
export function otherSideRun(jobId: number, sideId: number) {
	return db
		.selectFrom('run')
		.select(['id', 'startedAt'])
		.where('jobId', '=', jobId)
		.where('boardSideId', '!=', sideId)
		.orderBy('startedAt')
		.executeTakeFirst();
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

/** What is measured in a run is judged by: its board side, and the foil as it was measured, where it was. */
export function runsForJudging(trx: Db | Trx) {
	return trx
		.selectFrom('run')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
		.select(({ fn }) => [
			'run.id',
			'run.jobId',
			'run.lineId',
			'run.boardSideId',
			'run.stencilToolId',
			fn.coalesce('stencilTool.measuredUm', 'stencil.foilUm').as('foilUm')
		]);
}
