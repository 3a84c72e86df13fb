import { afterPause, reflowClock } from '@keen-relay/core/paste';
import { db } from '../db/index.ts';
import { lineOf } from '../paste/jars.ts';

/** All that is known of a panel: each pass through a line with its run and every revision, prints, paste, placements with the reels that fed
 * them, oven and inspections. A two-sided panel has two passes.
 */
export async function panelStory(serial: string) {
	const panel = await db
		.selectFrom('panel')
		.innerJoin('job', 'job.id', 'panel.jobId')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.select(['panel.id', 'panel.serial', 'job.number as job', 'boardRevision.name as board', 'boardRevision.revision as boardRevision'])
		.where('panel.serial', '=', serial)
		.executeTakeFirst();
	if (!panel) return null;
	const passes = await db
		.selectFrom('panelPass')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.innerJoin('line', 'line.id', 'run.lineId')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.innerJoin('placementProgram', 'placementProgram.id', 'run.placementProgramId')
		.innerJoin('ovenRecipe', 'ovenRecipe.id', 'run.ovenRecipeId')
		.leftJoin('station', 'station.id', 'panelPass.stationId')
		.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
		.leftJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
		.select([
			'panelPass.id',
			'panelPass.printedAt',
			'panelPass.finishedAt',
			'station.name as stationName',
			'run.id as runId',
			'run.boardSideId',
			'line.id as lineId',
			'line.name as line',
			'stencilTool.code as stencilCode',
			'printRecipe.revision as printRecipeRevision',
			'boardSide.side',
			'boardSide.panel',
			'stencil.revision as stencilRevision',
			'stencil.foilUm',
			'placementProgram.revision as programRevision',
			'ovenRecipe.revision as recipeRevision',
			'ovenRecipe.recipe'
		])
		.where('panelPass.panelId', '=', panel.id)
		.orderBy('panelPass.printedAt')
		.execute();
	return {
		panel,
		passes: await Promise.all(
			passes.map(async (pass) => {
				const [story, line] = await Promise.all([passStory(pass.id, pass.runId), lineOf(pass.lineId, pass.printedAt.getTime())]);
				return {
					...pass,
					...story,
					// What lay on the stencil when it was printed: every jar that it can hold paste of.
					bead: line.portions.filter((p) => p.grams > 0.1),
					prints: story.prints.map((print) => ({ ...print, pause: afterPause(print.minutesSincePrevious ?? 0) })),
					oven: story.oven.map((through) => {
						const printed = story.prints.findLast((print) => print.printedAt <= through.enteredAt)?.printedAt ?? pass.printedAt;
						const { reflowActH, reflowStopH } = line.rules;
						const waitedMs = through.enteredAt.getTime() - printed.getTime();
						return { ...through, waitedMs, clock: reflowClock(printed.getTime(), through.enteredAt.getTime(), reflowActH, reflowStopH) };
					})
				};
			})
		)
	};
}

async function passStory(passId: number, runId: number) {
	const [misprints, prints, paste, placements, oven, visits, reels] = await Promise.all([
		misprintsOf(passId),
		db
			.selectFrom('print')
			.innerJoin('panelPass', 'panelPass.id', 'print.passId')
			.innerJoin('run', 'run.id', 'panelPass.runId')
			.leftJoinLateral(
				(q) =>
					q
						.selectFrom('bladeFitting')
						.select('bladeFitting.code')
						.whereRef('bladeFitting.lineId', '=', 'run.lineId')
						.whereRef('bladeFitting.stroke', '=', 'print.stroke')
						.whereRef('bladeFitting.fittedAt', '<=', 'print.printedAt')
						.orderBy('bladeFitting.id', 'desc')
						.limit(1)
						.as('blade'),
				(join) => join.onTrue()
			)
			.selectAll('print')
			.select('blade.code as blade')
			.where('print.passId', '=', passId)
			.orderBy('print.printAttempt')
			.execute(),
		db.selectFrom('pasteSummary').selectAll().where('passId', '=', passId).orderBy('measuredAt').execute(),
		db
			.selectFrom('placementReport')
			.innerJoin('station', 'station.id', 'placementReport.stationId')
			.select(['station.name', 'placementReport.placedAt', 'placementReport.cycleS', 'placementReport.lost', 'placementReport.stationId'])
			.where('passId', '=', passId)
			.orderBy('placedAt')
			.execute(),
		db.selectFrom('ovenPass').selectAll().where('passId', '=', passId).execute(),
		db
			.selectFrom('inspectionVisit')
			.innerJoin('station', 'station.id', 'inspectionVisit.stationId')
			.leftJoin('inspectionCall', 'inspectionCall.visitId', 'inspectionVisit.id')
			.select([
				'station.name',
				'inspectionVisit.id',
				'inspectionVisit.circuit',
				'inspectionVisit.attempt',
				'inspectionVisit.startedAt',
				'inspectionVisit.result',
				'inspectionCall.refDes',
				'inspectionCall.pin',
				'inspectionCall.code',
				'inspectionCall.measured'
			])
			.where('passId', '=', passId)
			.orderBy('inspectionVisit.startedAt')
			.orderBy('inspectionVisit.circuit')
			.execute(),
		reelsFor(runId, passId)
	]);
	return { misprints, prints, paste, placements, oven, visits, reels };
}

/** The reels that were loaded when the panel was placed: the latest load of each slot before that moment. */
function reelsFor(runId: number, passId: number) {
	return db
		.selectFrom('feederLoad')
		.innerJoin('placementReport', 'placementReport.stationId', 'feederLoad.stationId')
		.innerJoin('station', 'station.id', 'feederLoad.stationId')
		.distinctOn(['feederLoad.stationId', 'feederLoad.slot'])
		.select([
			'station.name as station',
			'feederLoad.slot',
			'feederLoad.partNumber',
			'feederLoad.reel',
			'feederLoad.makerLot',
			'feederLoad.loadedAt'
		])
		.where('feederLoad.runId', '=', runId)
		.where('placementReport.passId', '=', passId)
		.whereRef('feederLoad.loadedAt', '<=', 'placementReport.placedAt')
		.orderBy('feederLoad.stationId')
		.orderBy('feederLoad.slot')
		.orderBy('feederLoad.loadedAt', 'desc')
		.execute();
}

/** Misprints of a pass, with who did which step of the wash. */
async function misprintsOf(passId: number) {
	const [misprints, done] = await Promise.all([
		db
			.selectFrom('misprint')
			.innerJoin('user', 'user.id', 'misprint.personId')
			.select(['misprint.id', 'misprint.at', 'misprint.decision', 'misprint.reasons', 'misprint.steps', 'user.name'])
			.where('passId', '=', passId)
			.orderBy('misprint.at')
			.execute(),
		db
			.selectFrom('misprintStep')
			.innerJoin('misprint', 'misprint.id', 'misprintStep.misprintId')
			.innerJoin('user', 'user.id', 'misprintStep.doneBy')
			.select(['misprintStep.misprintId', 'misprintStep.step', 'misprintStep.doneAt', 'user.name'])
			.where('misprint.passId', '=', passId)
			.execute()
	]);
	return misprints.map((m) => ({
		...m,
		steps: m.steps.map((words, step) => ({ words, done: done.find((d) => d.misprintId === m.id && d.step === step) ?? null }))
	}));
}
