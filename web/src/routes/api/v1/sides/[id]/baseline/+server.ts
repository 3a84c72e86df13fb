import { answer, idOf } from '$lib/server/answer.ts';
import { withdrawGolden } from '$lib/server/stations/paste-check/thresholds.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Goes back from an approved baseline to the transfer curve. */
export async function DELETE(event) {
	return answer(async () => withdrawGolden(await authorize(event, 'signature.tune'), idOf(event.params.id)));
}
