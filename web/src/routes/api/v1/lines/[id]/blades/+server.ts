import { bodies } from '$lib/api/bodies.ts';
import { bladesOf, fitBlade } from '$lib/server/stations/print/blades.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'The blades in a line’s printer, with the strokes that each has made and how it stands.',
	run: ({ id }) => bladesOf(id)
});

export const PUT = route({
	who: 'blade.fit',
	does: 'Says which blade stands in front or rear now, or that a nick was seen; naming the other holder’s blade swaps the two.',
	body: bodies.blade,
	example: { stroke: 'F', code: 'B-07', why: 'the old one had a nick' },
	run: ({ actor, body, id }) => fitBlade(actor, id, body)
});
