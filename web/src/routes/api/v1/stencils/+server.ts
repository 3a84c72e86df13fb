import { bodies } from '$lib/api/bodies.ts';
import { releaseStencil } from '$lib/server/stations/print/release-stencil.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'stencil.release',
	does: 'Releases a stencil at one foil.',
	body: bodies.stencil,
	example: { sideId: 1, foilUm: 100, wall: 'laser', taperUm: 6 },
	status: 201,
	run: ({ actor, body: { sideId, startedFrom, ...design } }) => releaseStencil(actor, sideId, design, startedFrom)
});
