import { bodies } from '$lib/api/bodies.ts';
import { acceptTrim, offsetsAt } from '$lib/server/stations/place/trims.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Where a placer puts its parts in the run that is on, what they have in common, what was trimmed and what became of it; null where nothing runs.',
	run: ({ id }) => offsetsAt(id)
});

export const POST = route({
	who: 'trim.accept',
	does: 'Adds a correction to what a placer’s program says, if what was measured asks for it now.',
	body: bodies.trim,
	example: { sideId: 1, level: 'feeder', name: '14', dxUm: -34, dyUm: 0, startedFrom: null },
	status: 201,
	run: ({ actor, body, id }) => acceptTrim(actor, id, body)
});
