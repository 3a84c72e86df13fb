import { weakPin } from '@keen-relay/core/people';
import { bodies } from '$lib/api/bodies.ts';
import { refuse } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { createPerson } from '$lib/server/people/auth.ts';
import { logAction } from '$lib/server/plant/log.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'person.create',
	does: 'Enters a person with a badge.',
	body: bodies.person,
	example: { name: 'G. Heron', badge: 'gwen', pin: '2007', role: 'operator' },
	status: 201,
	run: async ({ actor, body: person }) => {
		const weak = weakPin(person.pin, person.badge, person.role);
		if (weak) refuse('pin', '', weak);
		const id = await createPerson(person);
		await logAction(db, actor, 'person.create', `${person.name}, ${person.role}`);
		return { id };
	}
});
