import { z } from 'zod';
import { stationsOf } from '$lib/server/queries/stations.ts';
import { workOf } from '$lib/server/line/work.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'machine',
	does: 'What the machines of a line are to build now.',
	query: z.object({ known: z.coerce.number().int().optional().describe('run that is known already') }),
	run: async ({ query, id }) => {
		const work = await workOf(id);
		// A machine that knows the run already asks only whether it is still on.
		if (work && query.known === work.runId)
			return {
				work: {
					runId: work.runId,
					ended: work.ended,
					mayPrint: work.mayPrint,
					setting: work.setting,
					panels: work.panels,
					serials: work.serials,
					jar: work.jar,
					cured: work.cured,
					held: work.held,
					reprint: work.reprint,
					beadG: work.beadG,
					reels: work.machines.map(({ name, feeders, cleanedMs, trims }) => ({
						name,
						cleanedMs,
						trims,
						feeders: feeders.map(({ slot, left, reel }) => ({ slot, left, reel }))
					}))
				},
				stations: []
			};
		const stations = await stationsOf(id);
		return { work, stations: stations.map(({ id, name, role, spec }) => ({ id, name, role, spec })) };
	}
});
