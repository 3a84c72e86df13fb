import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { receiveJar } from '$lib/server/stations/paste/jars.ts';
import { authorize } from '$lib/server/people/access.ts';
import { jarsNow } from '$lib/server/queries/jars.ts';

/** Jars that are not gone, with state, governing clock and next needed action. */
export async function GET() {
	return answer(async () => {
		return (await jarsNow(await plantNow())).map(({ facts, status }) => ({ ...facts, ...status }));
	});
}

/** Receives a sealed jar. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'jar.receive');
		return receiveJar(actor, await readJson(event, bodies.jar));
	}, 201);
}
