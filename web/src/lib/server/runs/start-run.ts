import { panelGeometry } from '@keen-relay/core/artwork';
import { piecesLeft } from '@keen-relay/core/feeders';
import type { Issue } from '@keen-relay/core/judgement';
import { boardSide, released } from '../db/boards.ts';
import { announce, db } from '../db/index.ts';
import { reels } from '../db/results.ts';
import { plantNow } from '../line/clock.ts';
import { logAction } from '../people/log.ts';
import { Refusal, refuse } from '../answer.ts';

export async function createJob(
	personId: string,
	job: { number: string; boardRevisionId: number; panels: number }
): Promise<{ id: number }> {
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const row = await trx
			.insertInto('job')
			.values({ ...job, createdBy: personId, createdAt: at })
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, personId, 'job.create', `${job.number}, ${job.panels} panels`);
		await announce(trx, 'runs');
		return row;
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

/** Starts a job on a line with what is released now; the run keeps those revisions. */
export async function startRun(personId: string, jobId: number, lineId: number): Promise<{ id: number }> {
	const job = await db
		.selectFrom('job')
		.innerJoin('boardSide', 'boardSide.boardRevisionId', 'job.boardRevisionId')
		.select(['job.number', 'boardSide.id as sideId'])
		.where('job.id', '=', jobId)
		.executeTakeFirst();
	if (!job) return refuse('job', jobId, 'There is no such job.');
	const busy = await db
		.selectFrom('run')
		.innerJoin('job', 'job.id', 'run.jobId')
		.select('job.number')
		.where('run.lineId', '=', lineId)
		.where('run.endedAt', 'is', null)
		.executeTakeFirst();
	if (busy) return refuse('line', lineId, `The line is building ${busy.number}. End that run first.`);
	const missing = await missingForRun(job.sideId, lineId);
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
	const { stencil, program, recipe } = await released(job.sideId, lineId);
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const row = await trx
			.insertInto('run')
			.values({
				jobId,
				boardSideId: job.sideId,
				lineId,
				stencilId: stencil!.id,
				placementProgramId: program!.id,
				ovenRecipeId: recipe!.id,
				startedBy: personId,
				startedAt: at,
				endedBy: null,
				endedAt: null
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, personId, 'run.start', job.number);
		await announce(trx, 'runs');
		await announce(trx, 'line');
		return row;
	});
}

export async function endRun(personId: string, runId: number): Promise<void> {
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		const run = await trx
			.updateTable('run')
			.set({ endedAt: at, endedBy: personId })
			.where('id', '=', runId)
			.where('endedAt', 'is', null)
			.returning('jobId')
			.executeTakeFirst();
		if (!run) return refuse('run', runId, 'This run is not going on.');
		const job = await trx.selectFrom('job').select('number').where('id', '=', run.jobId).executeTakeFirstOrThrow();
		await logAction(trx, personId, 'run.end', job.number);
		await announce(trx, 'runs');
		await announce(trx, 'line');
	});
}

/** Everything that the machines of a line need to build the run that is on, as plain data; null where the line is idle. */
export async function workOf(lineId: number) {
	const run = await currentRun(lineId);
	if (!run) return null;
	const side = await boardSide(run.boardSideId);
	if (!side) return null;
	const panel = panelGeometry(side, side.panel);
	const loaded = new Map((await reels(run.id)).map((reel) => [`${reel.station}/${reel.slot}`, reel]));
	/** Pieces that a slot's reel still holds; null where none was loaded in this run. */
	const leftAt = (machine: string, slot: number, perPanel: number) => {
		const reel = loaded.get(`${machine}/${slot}`);
		return reel ? piecesLeft(reel, perPanel) : null;
	};
	return {
		runId: run.id,
		job: run.number,
		panels: run.panels,
		printed: run.printed,
		foilUm: run.foilUm,
		circuits: panel.origins.length,
		panel: { widthMm: panel.widthMm, heightMm: panel.heightMm, origins: panel.origins },
		/** Openings of one circuit in their stable order; readings come circuit by circuit. */
		pads: side.apertures.map((a) => ({
			xMm: a.centre.x,
			yMm: a.centre.y,
			areaMm2: a.areaMm2,
			perimeterMm: a.perimeterMm,
			padClass: a.padClass,
			refDes: a.refDes
		})),
		parts: side.parts.filter((part) => part.fitted).map(({ refDes, packageName, partNumber }) => ({ refDes, packageName, partNumber })),
		machines: run.plan.machines.map((machine) => ({
			name: machine.machine,
			cycleS: machine.totalS,
			feeders: machine.loadList.map(({ slot, partNumber, perPanel, supply }) => ({
				slot,
				partNumber,
				perPanel,
				reelPieces: supply.pieces,
				left: leftAt(machine.machine, slot, perPanel)
			}))
		})),
		recipe: run.recipe
	};
}

/** The run that a line is building, with the revisions it was started with. */
export function currentRun(lineId: number) {
	return db
		.selectFrom('run')
		.innerJoin('job', 'job.id', 'run.jobId')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.innerJoin('placementProgram', 'placementProgram.id', 'run.placementProgramId')
		.innerJoin('ovenRecipe', 'ovenRecipe.id', 'run.ovenRecipeId')
		.select((eb) => [
			'run.id',
			'run.boardSideId',
			'run.startedAt',
			'job.number',
			'job.panels',
			'boardRevision.name as board',
			'boardRevision.revision as boardRevision',
			'boardSide.side',
			'stencil.foilUm',
			'stencil.revision as stencilRevision',
			'placementProgram.plan',
			'placementProgram.revision as programRevision',
			'ovenRecipe.recipe',
			'ovenRecipe.usePct',
			'ovenRecipe.verdict as ovenVerdict',
			'ovenRecipe.revision as recipeRevision',
			eb
				.selectFrom('panel')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('panel.runId', '=', 'run.id')
				.as('printed'),
			eb
				.selectFrom('panel')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('panel.runId', '=', 'run.id')
				.where('panel.finishedAt', 'is not', null)
				.as('finished')
		])
		.where('run.lineId', '=', lineId)
		.where('run.endedAt', 'is', null)
		.executeTakeFirst()
		.then((run) => (run ? { ...run, printed: run.printed ?? 0, finished: run.finished ?? 0 } : null));
}
