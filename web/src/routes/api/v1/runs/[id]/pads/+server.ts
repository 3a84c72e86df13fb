import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { strokeMedians } from '@keen-relay/core/inspection';
import { inspectedPanels, signatureRun } from '$lib/server/queries/readings.ts';
import { route } from '$lib/server/route.ts';

const LATEST = 40;

export const GET = route({
	who: 'signedIn',
	does: 'Pads of a run’s latest 40 panels by stroke: each pad’s middle over the panels of one blade; %, µm.',
	query: z.object({ stroke: z.enum(['F', 'R'], 'ask for F (front) or R (rear)') }),
	run: async ({ id, query: { stroke } }) => {
		const run = await signatureRun(id, (await inspectedPanels(id)).slice(-LATEST));
		const medians = run && strokeMedians(run, stroke);
		if (!medians?.panels) error(404, `No panel of run ${id} with this stroke has its pads kept.`);
		return medians;
	}
});
