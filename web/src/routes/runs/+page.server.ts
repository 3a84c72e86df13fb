import { db } from '$lib/server/db/index.ts';
import { leftBehind } from '$lib/server/line/follows.ts';
import { boardList } from '$lib/server/queries/sides.ts';
import { missingForRuns, waitingCounts } from '$lib/server/queries/runs.ts';

/** Jobs at once. */
const MOST = 24;

/** Each side of each job: what it needs, how far it is, and what comes to it from its other side. */
export async function load({ url, depends, parent }) {
	depends('live:runs', 'live:boards');
	const { line } = await parent();
	const from = Math.max(0, Math.trunc(Number(url.searchParams.get('from')) || 0));
	const running = await db
		.selectFrom('run')
		.innerJoin('line', 'line.id', 'run.lineId')
		.select(['run.jobId', 'run.boardSideId', 'run.lineId', 'run.id', 'run.readyAt', 'line.name as line'])
		.where('run.endedAt', 'is', null)
		.execute();
	const latest = await db
		.selectFrom('job')
		.select('id')
		.where('withdrawnAt', 'is', null)
		.orderBy('createdAt', 'desc')
		.orderBy('id', 'desc')
		.offset(from)
		.limit(MOST + 1)
		.execute();
	// What runs is shown first, however long ago it was entered.
	const shown = [...latest.slice(0, MOST).map(({ id }) => id), ...(from === 0 ? running.map((run) => run.jobId) : [])];
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
		.where('job.id', 'in', shown.length ? shown : [-1])
		.orderBy('job.createdAt', 'desc')
		.orderBy('job.id', 'desc')
		.orderBy('boardSide.side')
		.execute();
	const jobs = rows.map((row) => {
		const others = rows.filter((other) => other.id === row.id && other.sideId !== row.sideId);
		// A side whose other side was built first takes the panels that came off it.
		const second = others.some((o) => o.startedAt !== null && (row.startedAt === null || o.startedAt < row.startedAt));
		const on = running.find((run) => run.jobId === row.id && run.boardSideId === row.sideId) ?? null;
		return { ...row, finished: row.finished ?? 0, on, second, waiting: null as number | null };
	});
	const seconds = jobs.filter((job) => job.second);
	const counts = await waitingCounts(seconds.map((job) => ({ jobId: job.id, sideId: job.sideId })));
	seconds.forEach((job, i) => (job.waiting = counts[i]!));
	const boards = new Map((await boardList()).map((board) => [board.id, `${board.name} ${board.revision}`]));
	const sides = [...new Set(jobs.map((job) => job.sideId))];
	const missing = Object.fromEntries(line ? await missingForRuns(sides, line.id) : []);
	const page = { newer: from > 0 ? Math.max(0, from - MOST) : null, older: latest.length > MOST ? from + MOST : null };
	// A run whose panels are done, or that has ended, leaves things to do.
	const idle = line !== null && line !== undefined && (line.run === null || line.run.finished >= line.run.panels);
	const left = idle ? await leftBehind(line.id) : null;
	return { jobs, left, page, boards: [...boards].map(([id, label]) => ({ id, label })), missing };
}
