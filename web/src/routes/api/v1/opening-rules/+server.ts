import { STENCIL_RULES } from '@keen-relay/core/stencil';
import { bodies } from '$lib/api/bodies.ts';
import { keepRules } from '$lib/server/stations/print/opening-rules.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'openingRules.set',
	does: 'Keeps a new revision of what is done to the openings of each class.',
	body: bodies.openingRules,
	example: { rules: STENCIL_RULES, note: 'chips as drawn' },
	run: ({ actor, body }) => keepRules(actor, body.rules, body.note, body.startedFrom)
});
