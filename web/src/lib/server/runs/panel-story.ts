import { db } from '../db/index.ts';

/** All that is known of a panel: its run with every revision, prints, paste, placements with the reels that fed them, oven, inspections. */
export async function panelStory(serial: string) {
	const panel = await db
		.selectFrom('panel')
		.innerJoin('run', 'run.id', 'panel.runId')
		.innerJoin('job', 'job.id', 'run.jobId')
		.innerJoin('line', 'line.id', 'run.lineId')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.innerJoin('placementProgram', 'placementProgram.id', 'run.placementProgramId')
		.innerJoin('ovenRecipe', 'ovenRecipe.id', 'run.ovenRecipeId')
		.leftJoin('station', 'station.id', 'panel.stationId')
		.select([
			'panel.id',
			'panel.serial',
			'panel.printedAt',
			'panel.finishedAt',
			'station.name as stationName',
			'run.id as runId',
			'run.boardSideId',
			'run.lineId',
			'run.startedAt',
			'job.number as job',
			'line.name as line',
			'boardRevision.name as board',
			'boardRevision.revision as boardRevision',
			'boardSide.side',
			'boardSide.panel',
			'stencil.revision as stencilRevision',
			'stencil.foilUm',
			'placementProgram.revision as programRevision',
			'ovenRecipe.revision as recipeRevision',
			'ovenRecipe.recipe'
		])
		.where('panel.serial', '=', serial)
		.executeTakeFirst();
	if (!panel) return null;
	const [prints, paste, placements, oven, visits, loaded] = await Promise.all([
		db.selectFrom('print').selectAll().where('panelId', '=', panel.id).orderBy('printAttempt').execute(),
		db.selectFrom('pasteSummary').selectAll().where('panelId', '=', panel.id).orderBy('measuredAt').execute(),
		db
			.selectFrom('placementReport')
			.innerJoin('station', 'station.id', 'placementReport.stationId')
			.select(['station.name', 'placementReport.placedAt', 'placementReport.cycleS', 'placementReport.lost', 'placementReport.stationId'])
			.where('panelId', '=', panel.id)
			.orderBy('placedAt')
			.execute(),
		db.selectFrom('ovenPass').selectAll().where('panelId', '=', panel.id).execute(),
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
			.where('panelId', '=', panel.id)
			.orderBy('inspectionVisit.startedAt')
			.orderBy('inspectionVisit.circuit')
			.execute(),
		reelsFor(panel.runId, panel.id)
	]);
	return { panel, prints, paste, placements, oven, visits, reels: loaded };
}

/** The reels that were loaded when the panel was placed: the latest load of each slot before that moment. */
function reelsFor(runId: number, panelId: number) {
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
		.where('placementReport.panelId', '=', panelId)
		.whereRef('feederLoad.loadedAt', '<=', 'placementReport.placedAt')
		.orderBy('feederLoad.stationId')
		.orderBy('feederLoad.slot')
		.orderBy('feederLoad.loadedAt', 'desc')
		.execute();
}
