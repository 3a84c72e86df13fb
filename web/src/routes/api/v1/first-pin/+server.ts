import { bodies } from '$lib/api/bodies.ts';
import { askingAt } from '$lib/server/people/guesses.ts';
import { chooseFirstPin } from '$lib/server/people/people.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'badgeAndPin',
	does: 'Chooses the PIN of a person who holds a starting code from a lead.',
	body: bodies.firstPin,
	example: { badge: 'gwen', code: '4821-7730', newPin: '5961' },
	run: ({ event, body }) => chooseFirstPin(askingAt(event, body.badge, 'a first PIN'), body)
});
