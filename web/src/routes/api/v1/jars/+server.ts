import { bodies } from '$lib/api/bodies.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { receiveJar } from '$lib/server/stations/paste/jars.ts';
import { jarsNow } from '$lib/server/queries/jars.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Jars that are not gone, each with state, governing clock and next needed action.',
	run: async () => (await jarsNow(await plantNow())).map(({ facts, status }) => ({ ...facts, ...status }))
});

export const POST = route({
	who: 'jar.receive',
	does: 'Receives a sealed jar.',
	body: bodies.jar,
	example: { id: 'J-0031', pasteId: 1, lot: 'L26-114', expiry: '2027-02', grams: 500 },
	status: 201,
	run: ({ actor, body }) => receiveJar(actor, body)
});
