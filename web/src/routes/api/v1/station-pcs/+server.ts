import { bodies } from '$lib/api/bodies.ts';
import { createStationPc } from '$lib/server/people/station-pc.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'stationPc.create',
	does: 'Signs the browser that asks in as a station PC.',
	body: bodies.stationPc,
	example: { name: 'Line 1 oven', lineId: 1 },
	status: 201,
	run: ({ event, actor, body }) => createStationPc(actor, event.cookies, body.name, body.lineId)
});
