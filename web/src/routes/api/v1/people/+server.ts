import { z } from 'zod';
import { ROLES } from '@keen-relay/core/judgement';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { createPerson } from '$lib/server/people/auth.ts';
import { logAction } from '$lib/server/people/log.ts';

const body = z.object({
	name: z.string().trim().min(1).max(60),
	badge: z.string().regex(/^[A-Za-z0-9-]{2,20}$/, 'letters, digits and dashes, 2 to 20'),
	pin: z.string().min(4, 'at least four digits').max(64),
	role: z.enum(ROLES)
});

export async function POST(event) {
	return answer(async () => {
		const lead = requireAction(event.locals, 'person.create');
		const person = await readJson(event, body);
		const id = await createPerson(person);
		await logAction(db, lead.id, 'person.create', `${person.name}, ${person.role}`);
		return { id };
	}, 201);
}
