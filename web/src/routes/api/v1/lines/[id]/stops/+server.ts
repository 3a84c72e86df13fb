import { z } from 'zod';
import { stopsOf } from '$lib/server/queries/stops.ts';
import { route } from '$lib/server/route.ts';

const time = z.iso.datetime({ offset: true });

export const GET = route({
	who: 'signedIn',
	does: 'Stops of a line between two times, with the machine’s reason and a person’s.',
	query: z.object({ from: time.describe('ISO time'), to: time.describe('ISO time') }),
	run: ({ id, query }) => stopsOf(id, new Date(query.from), new Date(query.to))
});
