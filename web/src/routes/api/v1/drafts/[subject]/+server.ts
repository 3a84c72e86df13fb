import { bodies, draftSubject } from '$lib/api/bodies.ts';
import { draftOf, dropDraft, keepDraft } from '$lib/server/people/drafts.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'person',
	does: 'What this person typed there and did not save; null where there is nothing.',
	run: async ({ actor, part }) => ({ draft: await draftOf(actor.id, draftSubject.parse(part('subject'))) })
});

export const PUT = route({
	who: 'person',
	does: 'Keeps a draft.',
	body: bodies.draft,
	example: { content: { beltCmPerMin: 64 }, base: 'recipe 1 is released' },
	run: ({ actor, body: { content, base }, part }) => keepDraft(actor.id, draftSubject.parse(part('subject')), content, base)
});

export const DELETE = route({
	who: 'person',
	does: 'Throws a draft away.',
	run: ({ actor, part }) => dropDraft(actor.id, draftSubject.parse(part('subject')))
});
