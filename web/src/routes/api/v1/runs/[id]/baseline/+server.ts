import { answer, idOf } from '$lib/server/answer.ts';
import { keepGolden } from '$lib/server/stations/paste-check/thresholds.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Approves a run's pads as the baseline of its side. */
export async function POST(event) {
	return answer(async () => keepGolden(await authorize(event, 'signature.tune'), idOf(event.params.id)), 201);
}
