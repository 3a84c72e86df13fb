import { resetPin } from '$lib/server/people/people.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'person.change',
	does: 'Resets a person’s PIN: they are signed out everywhere and choose another one with the starting code in the answer, which is told once.',
	run: ({ actor, part }) => resetPin(actor, part('id'))
});
