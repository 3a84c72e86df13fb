import { bodies } from '$lib/api/bodies.ts';
import { setNeed } from '$lib/server/stations/print/joint-needs.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'openingRules.set',
	does: 'Says what paste each joint of a part needs, mm³ (coplanarity, pin in paste); null takes it back.',
	body: bodies.jointNeed,
	example: { refDes: 'J1', neededMm3: 0.25, why: 'coplanarity of the connector' },
	run: ({ actor, body: { refDes, neededMm3, why, startedFrom }, id }) => setNeed(actor, id, refDes, neededMm3, why, startedFrom)
});
