import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { reportJar } from '$lib/server/stations/paste/jars.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Moves a jar through its life: a request is refused with why and what would make it right, a fact is recorded. */
export async function POST(event) {
	return answer(async () => {
		const scans = await authorize(event, 'jar.scan');
		const body = await readJson(event, bodies.jarEvent);
		const actor = body.kind === 'review_ok' ? await authorize(event, 'jar.review') : scans;
		return reportJar(actor, event.params.id, body);
	}, 201);
}
