import { panelGeometry } from '@keen-relay/core/artwork';
import { whyNotOn } from '@keen-relay/core/balance';
import type { FirstBoardMode } from '@keen-relay/core/line';
import { FIRST_PRINTS } from '@keen-relay/core/printing';
import { whyNotIn } from '@keen-relay/core/reflow';
import { sql } from 'kysely';
import { machineData, tooSmallFor } from '$lib/stations/index.ts';
import type { PanelOf } from '$lib/stations/kind.ts';
import { errorsOfSide } from './sides.ts';
import { stationsOf } from './stations.ts';
import { db, type Db, type Trx } from '../db/index.ts';

/** What keeps each of some sides from being run on a line; empty where it is ready. No geometry is fetched for it. */
export async function missingForRuns(sideIds: readonly number[], lineId: number): Promise<Map<number, string[]>> {
	if (sideIds.length === 0) return new Map();
	const rows = await db
		.selectFrom('boardSide')
		.select(({ exists, selectFrom, lit }) => [
			'boardSide.id',
			'boardSide.panelSetBy',
			'boardSide.side',
			'boardSide.widthMm',
			'boardSide.heightMm',
			'boardSide.panel',
			errorsOfSide.as('errors'),
			...(['stencil', 'placementProgram', 'ovenRecipe'] as const).map((table) => {
				const own = selectFrom(table).select(lit(1).as('one')).whereRef(`${table}.boardSideId`, '=', 'boardSide.id');
				const released = own.where(`${table}.status`, '=', 'released');
				return exists(table === 'stencil' ? released : released.where(`${table}.lineId`, '=', lineId)).as(table);
			})
		])
		.where('boardSide.id', 'in', sideIds)
		.execute();
	const misfits = await misfitsOf(rows, lineId);
	return new Map(
		rows.map(({ id, errors, panelSetBy, stencil, placementProgram, ovenRecipe }) => [
			id,
			[
				...(errors ? [`${errors} open ${errors === 1 ? 'error' : 'errors'} of the reconciliation`] : []),
				...(panelSetBy ? [] : ['the panel layout']),
				...(stencil ? [] : ['a released stencil']),
				...(placementProgram ? [] : ['a released placement program']),
				...(ovenRecipe ? [] : ['a released oven recipe']),
				...(misfits.get(id) ?? [])
			]
		])
	);
}

/** What is released for sides on a line and does not fit its machines as they are now: the line was changed since. */
async function misfitsOf(sides: readonly (PanelOf & { id: number })[], lineId: number): Promise<Map<number, string[]>> {
	const sideIds = sides.map((side) => side.id);
	const of = (table: 'placementProgram' | 'ovenRecipe') =>
		db
			.selectFrom(table)
			.where('lineId', '=', lineId)
			.where('status', '=', 'released')
			.where('boardSideId', 'in', [...sideIds]);
	const [stations, programs, recipes] = await Promise.all([
		stationsOf(lineId),
		of('placementProgram')
			.select(['placementProgram.boardSideId', sql<string[]>`jsonb_path_query_array(plan, '$.machines[*].machine')`.as('machines')])
			.execute(),
		of('ovenRecipe').select(['ovenRecipe.boardSideId', 'ovenRecipe.recipe']).execute()
	]);
	const placers = stations.filter((s) => s.role === 'place').map((s) => s.name);
	const oven = stations.flatMap((s) => machineData(s, 'oven')?.oven ?? [])[0];
	const said = [
		...programs.map(({ boardSideId, machines }) => {
			const why = whyNotOn({ machines: machines.map((machine) => ({ machine })) }, placers);
			return [boardSideId, why && `a placement program for these placers (${why})`] as const;
		}),
		...recipes.map(({ boardSideId, recipe }) => {
			const why = oven ? whyNotIn(oven, recipe) : 'there is no oven in use';
			return [boardSideId, why && `an oven recipe for this oven (${why})`] as const;
		})
	];
	return new Map(
		sides.map((side) => [
			side.id,
			[
				...said.flatMap(([id, words]) => (id === side.id && words ? [words] : [])),
				...sizesMissing(stations, panelGeometry(side, side.panel, side.side))
			]
		])
	);
}

const sizesMissing = (stations: Parameters<typeof tooSmallFor>[0], { widthMm, heightMm }: { widthMm: number; heightMm: number }) =>
	tooSmallFor(stations, { widthMm, heightMm }).map(
		(small) =>
			`a station for panels of ${widthMm.toFixed(1)} × ${heightMm.toFixed(1)} mm (${small.name} takes ${small.longestMm} × ${small.widestMm} mm)`
	);

/** What keeps one side from being run on a line. */
export async function missingForRun(sideId: number, lineId: number): Promise<string[]> {
	return (await missingForRuns([sideId], lineId)).get(sideId) ?? ['the board side'];
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

/** Number of the next panel of a job: one more than the highest that was ever printed. */
export async function nextSerial(jobId: number, job: string): Promise<number> {
	const { rows } = await sql<{ last: number | null }>`select max(substring(serial from ${job.length + 2}::int)::int) as last from panel
		where job_id = ${jobId} and starts_with(serial, ${`${job}-`}) and substring(serial from ${job.length + 2}::int) ~ '^[0-9]{1,8}$'`.execute(
		db
	);
	return (rows[0]?.last ?? 0) + 1;
}

/** Panels of a run that were finished on this side in another run and are printed again, with when they were finished. */
export function printedAgain(runId: number) {
	return db
		.selectFrom('panelPass')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.innerJoin('panelPass as first', 'first.panelId', 'panelPass.panelId')
		.innerJoin('run as earlier', 'earlier.id', 'first.runId')
		.select(['panel.serial', 'first.finishedAt'])
		.where('panelPass.runId', '=', runId)
		.where('panelPass.finishedAt', 'is', null)
		.whereRef('first.id', '!=', 'panelPass.id')
		.whereRef('earlier.boardSideId', '=', 'run.boardSideId')
		.whereRef('first.finishedAt', '<', 'panelPass.printedAt')
		.orderBy('panelPass.printedAt')
		.limit(20)
		.execute();
}

/** How many wait, for each of some sides of jobs, in their order. */
export async function waitingCounts(of: readonly { jobId: number; sideId: number }[]): Promise<number[]> {
	if (of.length === 0) return [];
	const { rows } = await sql<{ n: number }>`
		select (select count(*) from panel n join panel_pass p on p.panel_id = n.id join run r on r.id = p.run_id
			where n.job_id = w.job and r.board_side_id <> w.side and p.finished_at is not null and not exists (
				select from panel_pass o join run s on s.id = o.run_id where o.panel_id = n.id and s.board_side_id = w.side)) as n
		from unnest(${of.map((w) => w.jobId)}::int[], ${of.map((w) => w.sideId)}::int[]) with ordinality as w(job, side, place)
		order by w.place`.execute(db);
	return rows.map((row) => row.n);
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
		readyAt: Date | null;
		firstPrintAt: Date | null;
		firstPrintsMore: number;
		firstBoard: FirstBoardMode | null;
		firstBoardAt: Date | null;
		endedAt: Date | null;
		before: number | null;
	}
>(run: T) {
	const printed = run.printed ?? 0;
	const settingUp = run.endedAt === null && run.readyAt === null;
	const waits = run.firstPrintAt === null || (run.firstBoard === 'hold' && run.firstBoardAt === null);
	const mayPrint = settingUp ? 0 : waits ? FIRST_PRINTS + run.firstPrintsMore : null;
	// A second side has the panels that came off the first, however many the job asked for.
	return {
		...run,
		printed,
		finished: run.finished ?? 0,
		// A job that was ended and goes on has only its rest left.
		panels: run.second ? printed + (run.waiting ?? 0) : Math.max(printed, run.panels - (run.before ?? 0)),
		secondPass: run.second !== null,
		mayPrint,
		/** Nothing is printed until its set-up is proven and somebody starts it. */
		settingUp,
		/** It has printed what it may until a second person has released its first board. */
		heldForBoard: !settingUp && run.endedAt === null && run.firstPrintAt !== null && mayPrint !== null && printed >= mayPrint,
		/** The printer waits until a person has released the first prints. */
		held: !settingUp && run.endedAt === null && run.firstPrintAt === null && mayPrint !== null && printed >= mayPrint
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
			'run.machines',
			'run.readyAt',
			'run.firstPrintAt',
			'run.firstPrintsMore',
			'run.firstBoard',
			'run.firstBoardWhy',
			'run.firstBoardAt',
			'run.firstBoardBy',
			'run.stencilToolId',
			'job.number',
			'job.panels',
			'boardRevision.name as board',
			'boardRevision.revision as boardRevision',
			'boardRevision.customer',
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
			// Panels of this side that earlier runs of the job have printed.
			eb
				.selectFrom('panelPass')
				.innerJoin('run as earlier', 'earlier.id', 'panelPass.runId')
				.select(({ fn }) => fn.count<number>('panelPass.panelId').distinct().as('n'))
				.whereRef('earlier.jobId', '=', 'run.jobId')
				.whereRef('earlier.boardSideId', '=', 'run.boardSideId')
				.whereRef('earlier.startedAt', '<', 'run.startedAt')
				.as('before'),
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
