import { error } from '@sveltejs/kit';
import { answer } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { panelReadings } from '$lib/server/db/results.ts';

/** Pad readings of a panel's latest paste inspection, circuit by circuit: %, µm and µm. */
export async function GET({ params }) {
	return answer(async () => {
		const last = await db
			.selectFrom('pasteSummary')
			.innerJoin('panel', 'panel.id', 'pasteSummary.panelId')
			.innerJoin('run', 'run.id', 'panel.runId')
			.select(['panel.id', 'run.boardSideId', 'pasteSummary.measuredAt'])
			.where('panel.serial', '=', params.serial)
			.orderBy('pasteSummary.measuredAt', 'desc')
			.executeTakeFirst();
		if (!last) error(404, `Panel ${params.serial} has no paste inspection.`);
		const blocks = await panelReadings(last.boardSideId, last.id, last.measuredAt);
		return {
			serial: params.serial,
			volumePct: blocks.flatMap((block) => block.volume.map((v) => v / 10)),
			heightUm: blocks.flatMap((block) => block.height.map((v) => v / 10)),
			areaPct: blocks.flatMap((block) => block.area.map((v) => v / 10)),
			offsetXUm: blocks.flatMap((block) => block.offsetX),
			offsetYUm: blocks.flatMap((block) => block.offsetY)
		};
	});
}
