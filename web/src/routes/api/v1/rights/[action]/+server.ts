import { actionName, bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { setRule } from '$lib/server/people/rights.ts';

/** Changes who may do something, and whether it asks for an approval. */
export async function PUT(event) {
	return answer(async () => {
		const lead = await authorize(event, 'rights.set');
		const { startedFrom, ...rule } = await readJson(event, bodies.rule);
		return setRule(lead, actionName.parse(event.params.action), rule, startedFrom ?? null);
	});
}
