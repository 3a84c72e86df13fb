import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { releaseStencil } from '$lib/server/stations/print/release-stencil.ts';
import { authorize } from '$lib/server/people/access.ts';

export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'stencil.release');
		const { sideId, startedFrom, ...design } = await readJson(event, bodies.stencil);
		return releaseStencil(actor, sideId, design, startedFrom);
	}, 201);
}
