import { bodies } from '$lib/api/bodies.ts';
import { enterPerson } from '$lib/server/people/people.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'person.create',
	does: 'Enters a person with a badge. Without a PIN the answer tells a starting code, once: the person chooses a PIN with it.',
	body: bodies.person,
	example: { name: 'G. Heron', badge: 'gwen', role: 'operator' },
	status: 201,
	run: ({ actor, body }) => enterPerson(actor, body)
});
