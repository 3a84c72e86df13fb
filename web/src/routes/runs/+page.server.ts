import { db } from '$lib/server/db/index.ts';
import { boardList } from '$lib/server/db/boards.ts';
import { missingForRun } from '$lib/server/runs/start-run.ts';

export async function load({ depends, parent }) {
	depends('live:runs', 'live:boards');
	const { line } = await parent();
	const jobs = await db
		.selectFrom('job')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.innerJoin('boardSide', 'boardSide.boardRevisionId', 'boardRevision.id')
		.select((eb) => [
			'job.id',
			'job.number',
			'job.panels',
			'job.createdAt',
			'boardRevision.name as board',
			'boardRevision.revision',
			'boardSide.id as sideId',
			eb
				.selectFrom('panel')
				.innerJoin('run', 'run.id', 'panel.runId')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('run.jobId', '=', 'job.id')
				.where('panel.finishedAt', 'is not', null)
				.as('finished'),
			eb
				.selectFrom('run')
				.select(({ fn }) => fn.max('run.startedAt').as('at'))
				.whereRef('run.jobId', '=', 'job.id')
				.as('startedAt')
		])
		.orderBy('job.createdAt', 'desc')
		.execute();
	const boards = (await boardList()).map((board) => ({ id: board.id, label: `${board.name} ${board.revision}, ${board.side}` }));
	const sides = [...new Set(jobs.map((job) => job.sideId))];
	const missing = Object.fromEntries(
		line ? await Promise.all(sides.map(async (sideId) => [sideId, await missingForRun(sideId, line.id)] as const)) : []
	);
	return { jobs, boards, missing };
}
