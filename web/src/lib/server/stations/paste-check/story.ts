import { db } from '../../db/index.ts';
import type { StoryPart } from '../story.ts';

/** Inspections of a panel's paste. */
export async function pasteCheckStory({ id }: { id: number }): Promise<StoryPart> {
	const rows = await db.selectFrom('pasteSummary').selectAll().where('passId', '=', id).orderBy('measuredAt').execute();
	const last = rows.at(-1);
	return {
		lines: rows.map((p) => ({
			at: p.measuredAt,
			what: `paste ${p.result}${p.inspectionAttempt > 1 ? `, inspection ${p.inspectionAttempt}` : ''}`,
			level: p.result === 'pass' ? 'good' : p.result === 'review' ? 'watch' : 'act',
			text: `mean ${p.meanVolumePct.toFixed(1)} %, ${p.fails} fail, ${p.warnings} warn of ${p.pads}`,
			notes: []
		})),
		pads: last?.worst ?? [],
		paste: last?.result ?? null,
		pastePads: last?.fails ?? 0
	};
}
