import { bodies } from '$lib/api/bodies.ts';
import { setOrientation } from '$lib/server/stations/place/orientation.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'package.set',
	does: 'Says in which quadrant of its tape pin 1 of a part has to lie: a reel that lies otherwise is refused at the feeder. Null: not compared.',
	body: bodies.orientation,
	example: { partNumber: 'D-SCH', quadrant: 1 },
	run: ({ actor, body }) => setOrientation(actor, body.partNumber, body.quadrant)
});
