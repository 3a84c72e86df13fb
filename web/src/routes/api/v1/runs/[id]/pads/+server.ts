import { error } from '@sveltejs/kit';
import { strokeMedians } from '@keen-relay/core/inspection';
import { answer, idOf, refuse } from '$lib/server/answer.ts';
import { inspectedPanels, signatureRun } from '$lib/server/queries/readings.ts';

const LATEST = 40;

/** Pads of a run's latest panels by stroke: each pad's middle over the panels of one blade. */
export async function GET({ params, url }) {
	return answer(async () => {
		const stroke = url.searchParams.get('stroke');
		if (stroke !== 'F' && stroke !== 'R') return refuse('stroke', stroke, 'Ask for F (front) or R (rear).');
		const runId = idOf(params.id);
		const run = await signatureRun(runId, (await inspectedPanels(runId)).slice(-LATEST));
		const medians = run && strokeMedians(run, stroke);
		if (!medians?.panels) error(404, `No panel of run ${runId} with this stroke has its pads kept.`);
		return medians;
	});
}
