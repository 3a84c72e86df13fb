import { bodies } from '$lib/api/bodies.ts';
import { refuse } from '$lib/server/answer.ts';
import { scanAtFeeders } from '$lib/server/stations/place/feeder-scans.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'feeder.load',
	does: 'One scan at the feeders of a line, with the slot and feeder that the same person scanned before it: what it waits for next, or right or wrong and why.',
	body: bodies.feederScan,
	example: { scan: 'Place 1/14', lineId: 1 },
	run: async ({ actor, body }) =>
		(await scanAtFeeders(actor, body)) ?? refuse('scan', body.scan, `${body.scan} is no slot of this line, no feeder and no reel.`)
});
