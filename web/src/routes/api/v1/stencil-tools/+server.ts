import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { keepStencilTool } from '$lib/server/stations/print/stencil-tools.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Keeps a stencil in the library. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'stencilTool.keep');
		const body = await readJson(event, bodies.stencilTool);
		return keepStencilTool(actor, body);
	}, 201);
}
