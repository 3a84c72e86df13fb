import { bodies } from '$lib/api/bodies.ts';
import { changePerson } from '$lib/server/people/people.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'person.change',
	does: 'Corrects a person’s name or role, says that they have left, or takes them back; who becomes a lead or comes back chooses a PIN with the code in the answer.',
	body: bodies.personChange,
	example: { role: 'technician' },
	run: ({ actor, body, part }) => changePerson(actor, part('id'), body)
});
