import { error } from '@sveltejs/kit';
import { writeStudy } from '@keen-relay/core/inspection';
import { answer, idOf, refuse } from '$lib/server/answer.ts';
import { inspectedPanels, signatureRun } from '$lib/server/queries/readings.ts';

const LATEST = 60;
const TABLES = ['pads', 'panels', 'readings'] as const;

/** A run's latest panels as a table ?of=pads, panels or readings: what a study of files reads. */
export async function GET({ params, url }) {
	let text = '';
	const wanted = url.searchParams.get('of');
	const refused = await answer(async () => {
		const of = TABLES.find((t) => t === wanted) ?? refuse('of', wanted, 'Ask for pads, panels or readings.');
		const runId = idOf(params.id);
		const run = await signatureRun(runId, (await inspectedPanels(runId)).slice(-LATEST));
		if (!run) error(404, `No panel of run ${runId} has its pads kept.`);
		text = writeStudy(run, run.bridgedPads)[of];
	});
	if (!refused.ok) return refused;
	return new Response(text, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': `attachment; filename="run-${params.id}-${wanted}.csv"`
		}
	});
}
