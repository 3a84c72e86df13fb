import { bodies } from '$lib/api/bodies.ts';
import { makeFirstLead } from '$lib/server/people/first-lead.ts';
import { askingAt } from '$lib/server/people/guesses.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'firstLead',
	does: 'Makes the first lead of an empty plant, by the code that its start printed.',
	body: bodies.firstLead,
	example: { code: 'K7QM-2XVD', name: 'D. Quill', badge: 'dessa', pin: '200468' },
	status: 201,
	run: ({ event, body }) => makeFirstLead(askingAt(event, 'first-lead', 'the first lead'), body)
});
