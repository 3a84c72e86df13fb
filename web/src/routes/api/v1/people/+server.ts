import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { authorize } from '$lib/server/people/access.ts';
import { createPerson } from '$lib/server/people/auth.ts';
import { logAction } from '$lib/server/plant/log.ts';

export async function POST(event) {
	return answer(async () => {
		const lead = await authorize(event, 'person.create');
		const person = await readJson(event, bodies.person);
		const id = await createPerson(person);
		await logAction(db, lead, 'person.create', `${person.name}, ${person.role}`);
		return { id };
	}, 201);
}
