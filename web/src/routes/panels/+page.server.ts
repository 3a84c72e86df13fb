import { db } from '$lib/server/db/index.ts';

const MOST = 200;

export async function load({ url, depends }) {
	depends('live:results');
	const wanted = url.searchParams.get('find')?.trim() ?? '';
	let query = db
		.selectFrom('panel')
		.innerJoin('run', 'run.id', 'panel.runId')
		.innerJoin('job', 'job.id', 'run.jobId')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.leftJoin('station', 'station.id', 'panel.stationId')
		.leftJoin('pasteSummary', (join) =>
			join
				.onRef('pasteSummary.panelId', '=', 'panel.id')
				.on('pasteSummary.inspectionAttempt', '=', 1)
				.on('pasteSummary.printAttempt', '=', 1)
		)
		.select((eb) => [
			'panel.serial',
			'panel.printedAt',
			'panel.finishedAt',
			'job.number as job',
			'boardRevision.name as board',
			'station.name as station',
			'pasteSummary.result as paste',
			eb
				.selectFrom('inspectionVisit')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('inspectionVisit.panelId', '=', 'panel.id')
				.where('inspectionVisit.result', '=', 'fail')
				.as('failed')
		])
		.orderBy('panel.printedAt', 'desc')
		.limit(MOST);
	if (wanted) query = query.where('panel.serial', 'ilike', `%${wanted.replace(/[%_\\]/g, '\\$&')}%`);
	return { panels: await query.execute(), wanted, most: MOST };
}
