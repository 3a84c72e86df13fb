import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends }) {
	depends('live:runs');
	const { station, lineId } = await stationPage(params.line, 'pasteCheck', url);
	const [runs, units] = await Promise.all([
		db
			.selectFrom('run')
			.innerJoin('job', 'job.id', 'run.jobId')
			.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
			.innerJoin('stencil', 'stencil.id', 'run.stencilId')
			.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
			.select(['run.id', 'job.number', 'boardSide.side', 'run.endedAt', 'stencil.foilUm', 'stencilTool.measuredUm'])
			.where('run.lineId', '=', lineId)
			.orderBy('run.startedAt', 'desc')
			.limit(20)
			.execute(),
		db.selectFrom('inspectionMapping').selectAll().orderBy('unit').execute()
	]);
	return { station, lineId, runs, units: units.map(({ unit, mapping }) => ({ unit, mapping })) };
}
