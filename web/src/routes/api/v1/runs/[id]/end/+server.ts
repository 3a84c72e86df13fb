import { requireAction } from '$lib/server/people/access.ts';
import { answer, idOf } from '$lib/server/answer.ts';
import { endRun } from '$lib/server/runs/start-run.ts';

export async function POST({ locals, params }) {
	return answer(async () => endRun(requireAction(locals, 'run.end').id, idOf(params.id)));
}
