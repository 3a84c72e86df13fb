import { sql } from 'kysely';
import { db } from '$lib/server/db/index.ts';

const MOST = 400;

export async function load({ url, depends }) {
	depends('live:results');
	const wanted = url.searchParams.get('find')?.trim() ?? '';
	let query = db
		.selectFrom('panelPass')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.innerJoin('line', 'line.id', 'run.lineId')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.innerJoin('job', 'job.id', 'run.jobId')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.leftJoin('station', 'station.id', 'panelPass.stationId')
		.leftJoin('pasteSummary', (join) =>
			join
				.onRef('pasteSummary.passId', '=', 'panelPass.id')
				.on('pasteSummary.inspectionAttempt', '=', 1)
				.on('pasteSummary.printAttempt', '=', 1)
		)
		.select((eb) => [
			'panelPass.id',
			'panel.serial',
			'panelPass.printedAt',
			'panelPass.finishedAt',
			'boardSide.side',
			'line.name as line',
			'job.number as job',
			'boardRevision.name as board',
			'station.name as station',
			'pasteSummary.result as paste',
			eb
				.selectFrom('inspectionVisit')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('inspectionVisit.passId', '=', 'panelPass.id')
				.where('inspectionVisit.result', '=', 'fail')
				.as('failed')
		])
		.orderBy('panelPass.printedAt', 'desc')
		.limit(MOST);
	if (wanted) query = query.where(sql<boolean>`lower(panel.serial) like lower(${`%${wanted.replace(/[%_\\]/g, '\\$&')}%`})`);
	return { panels: await query.execute(), wanted, most: MOST };
}
