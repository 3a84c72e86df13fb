import { db } from '../db/index.ts';

/** The baseline of a run's charts: its first panels until somebody takes it anew; then it stands until the next time. */
export async function chartBaseline(runId: number): Promise<{ revision: number; fromAt: Date | null; by: string | null }> {
	const row = await db
		.selectFrom('chartBaseline')
		.innerJoin('user', 'user.id', 'chartBaseline.createdBy')
		.select(['chartBaseline.revision', 'chartBaseline.fromAt', 'user.name as by'])
		.where('runId', '=', runId)
		.orderBy('revision', 'desc')
		.executeTakeFirst();
	return row ?? { revision: 0, fromAt: null, by: null };
}

/** Index of the panel at which a baseline begins. */
export const baselineFrom = (panels: readonly { measuredAt: Date }[], fromAt: Date | null): number =>
	fromAt === null
		? 0
		: Math.max(
				0,
				panels.findIndex((panel) => panel.measuredAt >= fromAt)
			);
