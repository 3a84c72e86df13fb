import { z } from 'zod';
import { planFor } from '$lib/server/stations/place/program.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Deals the parts of a side to the placers of a line; nothing is kept.',
	query: z.object({ line: z.coerce.number().int().positive().describe('line number') }),
	run: ({ id, query }) => planFor(id, query.line)
});
