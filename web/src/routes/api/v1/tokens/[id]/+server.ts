import { revokeToken } from '$lib/server/people/tokens.ts';
import { route } from '$lib/server/route.ts';

export const DELETE = route({
	who: 'token.revoke',
	does: 'Revokes a machine token.',
	run: ({ actor, id }) => revokeToken(actor, id)
});
