import { z } from 'zod';
import { error } from '@sveltejs/kit';
import { db } from '$lib/server/db/index.ts';
import { padHistory } from '$lib/server/queries/results.ts';
import { BLOCK_PADS } from '$lib/server/queries/readings.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'One pad’s volumes through a run, oldest first; pads count from 0, circuit by circuit.',
	query: z.object({ run: z.coerce.number().int().positive().describe('run number') }),
	run: async ({ query, id, part }) => {
		const pad = Number(part('pad'));
		if (!Number.isInteger(pad) || pad < 0) error(404, `There is no pad "${part('pad')}".`);
		const run = await db.selectFrom('run').select('startedAt').where('id', '=', query.run).executeTakeFirst();
		if (!run) error(404, 'There is no such run.');
		const rows = await padHistory(id, Math.floor(pad / BLOCK_PADS), pad % BLOCK_PADS, query.run, run.startedAt);
		return rows.reverse();
	}
});
