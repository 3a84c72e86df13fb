import { db } from '$lib/server/db/index.ts';
import { boardList } from '$lib/server/queries/sides.ts';
import { missingForRun, waitingCount } from '$lib/server/queries/runs.ts';

/** Each side of each job: what it needs, how far it is, and what comes to it from its other side. */
export async function load({ depends, parent }) {
	depends('live:runs', 'live:boards');
	const { line } = await parent();
	const rows = await db
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
			'boardSide.side',
			eb
				.selectFrom('panelPass')
				.innerJoin('run', 'run.id', 'panelPass.runId')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('run.jobId', '=', 'job.id')
				.whereRef('run.boardSideId', '=', 'boardSide.id')
				.where('panelPass.finishedAt', 'is not', null)
				.as('finished'),
			eb
				.selectFrom('run')
				.select(({ fn }) => fn.max('run.startedAt').as('at'))
				.whereRef('run.jobId', '=', 'job.id')
				.whereRef('run.boardSideId', '=', 'boardSide.id')
				.as('startedAt')
		])
		.where('job.withdrawnAt', 'is', null)
		.orderBy('job.createdAt', 'desc')
		.orderBy('job.id', 'desc')
		.orderBy('boardSide.side')
		.limit(120)
		.execute();
	const running = await db
		.selectFrom('run')
		.innerJoin('line', 'line.id', 'run.lineId')
		.select(['run.jobId', 'run.boardSideId', 'run.lineId', 'run.id', 'line.name as line'])
		.where('run.endedAt', 'is', null)
		.execute();
	const jobs = await Promise.all(
		rows.map(async (row) => {
			const started = rows.some((other) => other.id === row.id && other.sideId !== row.sideId && other.startedAt !== null);
			// A side whose other side was built first takes the panels that came off it.
			const second =
				started && (row.startedAt === null || rows.some((o) => o.id === row.id && o.startedAt !== null && o.startedAt < row.startedAt!));
			const on = running.find((run) => run.jobId === row.id && run.boardSideId === row.sideId) ?? null;
			return {
				...row,
				finished: row.finished ?? 0,
				on,
				second,
				waiting: second ? await waitingCount(row.id, row.sideId) : null
			};
		})
	);
	const boards = new Map((await boardList()).map((board) => [board.id, `${board.name} ${board.revision}`]));
	const sides = [...new Set(jobs.map((job) => job.sideId))];
	const missing = Object.fromEntries(
		line ? await Promise.all(sides.map(async (sideId) => [sideId, await missingForRun(sideId, line.id)] as const)) : []
	);
	return { jobs, boards: [...boards].map(([id, label]) => ({ id, label })), missing };
}
