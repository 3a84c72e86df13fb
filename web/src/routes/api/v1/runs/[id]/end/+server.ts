import { answer, idOf } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { endRun } from '$lib/server/line/runs.ts';

export async function POST(event) {
	return answer(async () => endRun(await authorize(event, 'run.end'), idOf(event.params.id)));
}
