import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { addSensor } from '$lib/server/paste/pastes.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Adds a sensor; its readings come as messages. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'sensor.set');
		const body = await readJson(event, bodies.sensor);
		return addSensor(actor, body);
	}, 201);
}
