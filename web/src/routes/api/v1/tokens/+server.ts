import { bodies } from '$lib/api/bodies.ts';
import { createToken } from '$lib/server/people/tokens.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'token.create',
	does: 'Makes a machine token; shown this once.',
	body: bodies.token,
	example: { name: 'Oven logger' },
	status: 201,
	run: ({ actor, body }) => createToken(actor, body.name)
});
