import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { releaseProgram } from '$lib/server/stations/place/program.ts';
import { authorize } from '$lib/server/people/access.ts';

export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'program.release');
		const { sideId, lineId, startedFrom } = await readJson(event, bodies.program);
		return releaseProgram(actor, sideId, lineId, startedFrom);
	}, 201);
}
