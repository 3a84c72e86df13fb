import { db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { lineOf } from '../queries/bead.ts';
import { stencilTools } from '../stations/print/stencil-tools.ts';

/** What a run leaves behind: the paste on the stencil, and the stencil that was not washed since. */
export async function leftBehind(lineId: number) {
	const [line, tools, last] = await Promise.all([
		lineOf(lineId, await plantNow()),
		stencilTools(),
		db
			.selectFrom('run')
			.innerJoin('job', 'job.id', 'run.jobId')
			.select(['run.id', 'run.prints', 'run.endedAt', 'run.stencilToolId', 'job.number'])
			.where('run.lineId', '=', lineId)
			.orderBy('run.startedAt', 'desc')
			.executeTakeFirst()
	]);
	const tool = tools.find((t) => t.mountedOn === lineId);
	const printed = tool !== undefined && last?.stencilToolId === tool.id && last.prints > 0;
	const jars = [...new Set(line.portions.map((p) => p.jar))];
	return {
		job: last?.number ?? null,
		bead: jars.length ? { jars, grams: line.portions.reduce((sum, p) => sum + p.grams, 0) } : null,
		stencil: tool && printed ? { id: tool.id, code: tool.code } : null
	};
}
