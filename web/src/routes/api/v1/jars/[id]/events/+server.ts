import { bodies } from '$lib/api/bodies.ts';
import { reportJar } from '$lib/server/stations/paste/jars.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'jar.scan',
	also: ['jar.review'],
	does: 'Moves a jar through its life; a request is refused with why and what would make it right, a fact is recorded.',
	body: bodies.jarEvent,
	example: { kind: 'open', stirred: true },
	status: 201,
	run: async ({ actor, body, part, asking }) => reportJar(body.kind === 'review_ok' ? await asking('jar.review') : actor, part('id'), body)
});
