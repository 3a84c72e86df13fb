import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { keepFit } from '$lib/server/stations/print/opening-rules.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Fits the transfer curve to a run and keeps it. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'transfer.fit');
		const body = await readJson(event, bodies.transferFit);
		return keepFit(actor, body.runId);
	}, 201);
}
