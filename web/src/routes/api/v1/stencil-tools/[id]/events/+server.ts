import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { reportStencilTool } from '$lib/server/stations/print/stencil-tools.ts';

/** Mounts, takes off, cleans, moves, damages, repairs or scraps a stencil; mounting a wrong one is refused. */
export async function POST(event) {
	return answer(async () => {
		const mounts = await authorize(event, 'stencilTool.mount');
		const body = await readJson(event, bodies.stencilToolEvent);
		const actor = body.kind === 'mount' || body.kind === 'unmount' ? mounts : await authorize(event, 'stencilTool.keep');
		return reportStencilTool(actor, idOf(event.params.id), body);
	}, 201);
}
