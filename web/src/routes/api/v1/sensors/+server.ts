import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { addSensor } from '$lib/server/stations/paste/pastes.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Sensors of the plant. */
export async function GET() {
	return answer(() => db.selectFrom('sensor').select(['id', 'name', 'kind', 'lineId', 'everyMin']).orderBy('id').execute());
}

/** Adds a sensor; its readings come as messages. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'sensor.set');
		return addSensor(actor, await readJson(event, bodies.sensor));
	}, 201);
}
