import { CHART_BASELINE } from '@keen-relay/core/inspection';
import { refuse } from '../../answer.ts';
import { announce, db } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { pasteSeries } from '../../queries/results.ts';

/** Takes the baseline of a run's charts anew, from its latest panels. */
export async function takeChartBaseline(actor: Actor, runId: number): Promise<{ revision: number }> {
	const run = await db
		.selectFrom('run')
		.innerJoin('job', 'job.id', 'run.jobId')
		.select(['run.lineId', 'job.number'])
		.where('run.id', '=', runId)
		.executeTakeFirst();
	if (!run) return refuse('run', runId, 'There is no such run.');
	const latest = await pasteSeries(runId, CHART_BASELINE);
	if (latest.length < CHART_BASELINE)
		return refuse('panels', latest.length, `A baseline needs ${CHART_BASELINE} inspected panels; there are ${latest.length}.`);
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await trx.selectFrom('run').select('id').where('id', '=', runId).forUpdate().execute();
		const last = await trx
			.selectFrom('chartBaseline')
			.select(({ fn }) => fn.max('revision').as('n'))
			.where('runId', '=', runId)
			.executeTakeFirst();
		const revision = (last?.n ?? 0) + 1;
		await trx
			.insertInto('chartBaseline')
			.values({ runId, revision, fromAt: latest[0]!.measuredAt, createdBy: actor.id, createdAt: at })
			.execute();
		await logAction(
			trx,
			actor,
			'limits.set',
			`${run.number}: baseline ${revision} of its charts, the latest ${CHART_BASELINE} panels`,
			null,
			run.lineId
		);
		await announce(trx, 'results');
		return { revision };
	});
}
