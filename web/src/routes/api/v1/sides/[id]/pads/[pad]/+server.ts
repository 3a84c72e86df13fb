import { error } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { padHistory } from '$lib/server/queries/results.ts';
import { BLOCK_PADS } from '$lib/server/queries/readings.ts';

/** One pad's volumes through the run ?run=, oldest first. Pads count from 0, circuit by circuit. */
export async function GET({ params, url }) {
	return answer(async () => {
		const pad = Number(params.pad);
		if (!Number.isInteger(pad) || pad < 0) error(404, `There is no pad "${params.pad}".`);
		const runId = idOf(url.searchParams.get('run') ?? '');
		const run = await db.selectFrom('run').select('startedAt').where('id', '=', runId).executeTakeFirst();
		if (!run) error(404, 'There is no such run.');
		const rows = await padHistory(idOf(params.id), Math.floor(pad / BLOCK_PADS), pad % BLOCK_PADS, runId, run.startedAt);
		return rows.reverse();
	});
}
