import { answer, idOf } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { onePrintMore } from '$lib/server/stations/print/print-run.ts';

/** One panel more before a run is released. */
export async function POST(event) {
	return answer(async () => onePrintMore(await authorize(event, 'firstPrint.release'), idOf(event.params.id)), 201);
}
