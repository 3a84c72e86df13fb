import { bodies } from '$lib/api/bodies.ts';
import { db } from '$lib/server/db/index.ts';
import { addSensor } from '$lib/server/stations/paste/pastes.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Sensors of the plant.',
	run: () => db.selectFrom('sensor').select(['id', 'name', 'kind', 'lineId', 'everyMin']).orderBy('id').execute()
});

export const POST = route({
	who: 'sensor.set',
	does: 'Adds a temperature and humidity sensor; its readings come as messages from "Sensors/" and its name.',
	body: bodies.sensor,
	example: { name: 'Fridge 2', kind: 'fridge', lowC: 2, highC: 10 },
	status: 201,
	run: ({ actor, body }) => addSensor(actor, body)
});
