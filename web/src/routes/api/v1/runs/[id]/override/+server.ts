import { bodies } from '$lib/api/bodies.ts';
import { overrideReady } from '$lib/server/line/runs.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'run.override',
	does: 'Lets a line print without some of its set-up, for half an hour or the whole run, with the reason: its panels say so. An unknown code, a wrong stencil, board or paste, and a life that is past are never overridden.',
	body: bodies.override,
	example: { codes: ['support'], reason: 'first article on the bare rails, looked at by hand', wholeRun: false },
	status: 201,
	run: ({ actor, id, body }) => overrideReady(actor, id, body)
});
