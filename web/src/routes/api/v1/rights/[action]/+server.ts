import { actionName, bodies } from '$lib/api/bodies.ts';
import { setRule } from '$lib/server/people/rights.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'rights.set',
	does: 'Who may do something, and whether it asks for an approval.',
	body: bodies.rule,
	example: { roles: ['engineer', 'lead'], approval: 'second' },
	run: ({ actor, body: { startedFrom, ...rule }, part }) => setRule(actor, actionName.parse(part('action')), rule, startedFrom ?? null)
});
