import { z } from 'zod';
import { error } from '@sveltejs/kit';
import { db } from '$lib/server/db/index.ts';
import { panelReadings } from '$lib/server/queries/results.ts';
import { limitsOfRevision } from '$lib/server/stations/paste-check/limits.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Pad readings of a panel’s latest paste inspection or of one pass, circuit by circuit: %, µm and µm; and the limits that judged it.',
	query: z.object({ pass: z.coerce.number().int().positive().optional().describe('pass number') }),
	run: async ({ query, part }) => {
		const serial = part('serial');
		const last = await db
			.selectFrom('pasteSummary')
			.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
			.innerJoin('panel', 'panel.id', 'panelPass.panelId')
			.innerJoin('run', 'run.id', 'panelPass.runId')
			.select(['run.boardSideId', 'pasteSummary.passId', 'pasteSummary.measuredAt'])
			.select(['pasteSummary.printAttempt', 'pasteSummary.inspectionAttempt', 'pasteSummary.limitRevision'])
			.where('panel.serial', '=', serial)
			.$if(query.pass !== undefined, (passes) => passes.where('panelPass.id', '=', query.pass!))
			.orderBy('pasteSummary.measuredAt', 'desc')
			.orderBy('pasteSummary.printAttempt', 'desc')
			.orderBy('pasteSummary.inspectionAttempt', 'desc')
			.executeTakeFirst();
		if (!last) error(404, `Panel ${serial} has no paste inspection.`);
		const [blocks, extra, limits] = await Promise.all([
			panelReadings(last.boardSideId, last),
			db
				.selectFrom('pasteExtra')
				.select('bridgedPads')
				.where('passId', '=', last.passId)
				.where('printAttempt', '=', last.printAttempt)
				.where('inspectionAttempt', '=', last.inspectionAttempt)
				.executeTakeFirst(),
			limitsOfRevision(last.limitRevision)
		]);
		if (blocks.length === 0) error(404, `Of panel ${serial} only the summary is kept, not its pad readings.`);
		return {
			serial,
			volumePct: blocks.flatMap((block) => block.volume.map((v) => v / 10)),
			heightUm: blocks.flatMap((block) => block.height.map((v) => v / 10)),
			areaPct: blocks.flatMap((block) => block.area.map((v) => v / 10)),
			offsetXUm: blocks.flatMap((block) => block.offsetX),
			offsetYUm: blocks.flatMap((block) => block.offsetY),
			bridged: extra?.bridgedPads ?? [],
			limitRevision: last.limitRevision,
			limits
		};
	}
});
