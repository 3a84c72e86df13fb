import { bodies } from '$lib/api/bodies.ts';
import { keepStencilTool } from '$lib/server/stations/print/stencil-tools.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'stencilTool.keep',
	does: 'Keeps a stencil in the library.',
	body: bodies.stencilTool,
	example: { code: 'S-014', stencilId: 3, place: 'rack B2', measuredUm: 103 },
	status: 201,
	run: ({ actor, body }) => keepStencilTool(actor, body)
});
