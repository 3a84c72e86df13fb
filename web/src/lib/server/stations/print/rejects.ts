import { stepsBeforePrint } from '@keen-relay/core/printing';
import { db } from '../../db/index.ts';
import { openHolds, type OpenHold } from '../../queries/holds.ts';

export interface RejectedPanel extends OpenHold {
	/** Its wash, where somebody has taken it off since: the steps that are left, and the one that comes now. */
	wash: { misprintId: number; step: number; of: number; words: string | null; decision: string } | null;
}

/** Panels of a line, or of all, that are held because of their paste, each with how far its wash is. */
export async function rejectedPanels(lineId?: number): Promise<RejectedPanel[]> {
	const holds = (await openHolds(lineId === undefined ? {} : { lineId })).filter((hold) => hold.code === 'paste_reject');
	if (holds.length === 0) return [];
	const taken = await db
		.selectFrom('misprint')
		.select(({ selectFrom }) => [
			'misprint.id',
			'passId',
			'at',
			'steps',
			'decision',
			selectFrom('misprintStep')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('misprintStep.misprintId', '=', 'misprint.id')
				.as('done')
		])
		.where(
			'passId',
			'in',
			holds.map((hold) => hold.passId ?? -1)
		)
		.orderBy('misprint.id')
		.execute();
	return holds.map((hold) => {
		const own = taken.findLast((t) => t.passId === hold.passId && t.at >= hold.since);
		const step = own?.done ?? 0;
		const before = own ? stepsBeforePrint(own.steps) : 0;
		return {
			...hold,
			wash: own ? { misprintId: own.id, step, of: before, words: step < before ? own.steps[step]! : null, decision: own.decision } : null
		};
	});
}
