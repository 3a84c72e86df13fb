import { answer, idOf } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { releaseFirstPrint } from '$lib/server/stations/print/print-run.ts';

/** Releases a run after its first prints; refused while they are not in order. */
export async function POST(event) {
	return answer(async () => releaseFirstPrint(await authorize(event, 'firstPrint.release'), idOf(event.params.id)));
}
