import { bodies } from '$lib/api/bodies.ts';
import { reportStencilTool } from '$lib/server/stations/print/stencil-tools.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'stencilTool.mount',
	also: ['stencilTool.keep'],
	does: 'Mounts, takes off, cleans, moves, damages, repairs or scraps a stencil; mounting a wrong one is refused.',
	body: bodies.stencilToolEvent,
	example: { kind: 'mount', lineId: 1 },
	status: 201,
	run: async ({ actor, body, id, asking }) => {
		const mounts = body.kind === 'mount' || body.kind === 'unmount';
		return reportStencilTool(mounts ? actor : await asking('stencilTool.keep'), id, body);
	}
});
