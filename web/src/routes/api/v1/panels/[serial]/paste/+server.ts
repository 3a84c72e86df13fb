import { error } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { panelReadings } from '$lib/server/queries/results.ts';
import { limitsOfRevision } from '$lib/server/stations/paste-check/limits.ts';

/** Pad readings of a panel's latest paste inspection, or of the pass ?pass=, circuit by circuit: %, µm and µm; and the limits that judged it. */
export async function GET({ params, url }) {
	return answer(async () => {
		const wanted = url.searchParams.get('pass');
		const last = await db
			.selectFrom('pasteSummary')
			.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
			.innerJoin('panel', 'panel.id', 'panelPass.panelId')
			.innerJoin('run', 'run.id', 'panelPass.runId')
			.select(['run.boardSideId', 'pasteSummary.passId', 'pasteSummary.measuredAt'])
			.select(['pasteSummary.printAttempt', 'pasteSummary.inspectionAttempt', 'pasteSummary.limitRevision'])
			.where('panel.serial', '=', params.serial)
			.$if(wanted !== null, (query) => query.where('panelPass.id', '=', idOf(wanted ?? '')))
			.orderBy('pasteSummary.measuredAt', 'desc')
			.orderBy('pasteSummary.printAttempt', 'desc')
			.orderBy('pasteSummary.inspectionAttempt', 'desc')
			.executeTakeFirst();
		if (!last) error(404, `Panel ${params.serial} has no paste inspection.`);
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
		if (blocks.length === 0) error(404, `Of panel ${params.serial} only the summary is kept, not its pad readings.`);
		return {
			serial: params.serial,
			volumePct: blocks.flatMap((block) => block.volume.map((v) => v / 10)),
			heightUm: blocks.flatMap((block) => block.height.map((v) => v / 10)),
			areaPct: blocks.flatMap((block) => block.area.map((v) => v / 10)),
			offsetXUm: blocks.flatMap((block) => block.offsetX),
			offsetYUm: blocks.flatMap((block) => block.offsetY),
			bridged: extra?.bridgedPads ?? [],
			limitRevision: last.limitRevision,
			limits
		};
	});
}
