import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { writeStudy } from '@keen-relay/core/inspection';
import { inspectedPanels, signatureRun } from '$lib/server/queries/readings.ts';
import { download, route } from '$lib/server/route.ts';

const LATEST = 60;

export const GET = route({
	who: 'signedIn',
	does: 'A run’s latest 60 panels as a CSV table, for a study elsewhere or on paste_study.',
	query: z.object({ of: z.enum(['pads', 'panels', 'readings'], 'ask for pads, panels or readings') }),
	answers: 'text/csv',
	run: async ({ id, query: { of } }) => {
		const run = await signatureRun(id, (await inspectedPanels(id)).slice(-LATEST));
		if (!run) error(404, `No panel of run ${id} has its pads kept.`);
		return download(writeStudy(run, run.bridgedPads)[of], `run-${id}-${of}.csv`);
	}
});
