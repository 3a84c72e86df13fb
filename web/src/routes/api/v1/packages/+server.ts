import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { setFact } from '$lib/server/boards/packages.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Enters what is known of a package, with its source. */
export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'package.set');
		const { name, field, value, source } = await readJson(event, bodies.package);
		return setFact(actor, name, field, value, source);
	});
}
