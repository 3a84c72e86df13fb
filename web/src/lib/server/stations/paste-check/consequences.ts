import { consequenceLimits, outcomesOfRun, thinned, type Consequences, type DepositOutcome } from '@keen-relay/core/inspection';
import { PAD_CLASSES, type PadClass } from '@keen-relay/core/parts';
import { db } from '../../db/index.ts';
import { currentLimits } from './limits.ts';
import { inspectedPanels, signatureRun } from '../../queries/readings.ts';

const RUNS = 6;
const PANELS = 80;
/** Good deposits that the curve is fitted to at most: one in k of them stands for k. */
const MOST_GOOD = 20_000;

/** Deposits of a side's latest runs with what inspection after the oven found at their joint, by class of pad. */
async function outcomesOf(boardSideId: number): Promise<Map<PadClass, DepositOutcome[]>> {
	const runs = await db
		.selectFrom('run')
		.select('id')
		.where('boardSideId', '=', boardSideId)
		.orderBy('startedAt', 'desc')
		.limit(RUNS)
		.execute();
	const outcomes = new Map<PadClass, DepositOutcome[]>(PAD_CLASSES.map((c) => [c, []]));
	for (const { id } of runs) {
		const panels = (await inspectedPanels(id)).slice(-PANELS);
		const run = await signatureRun(id, panels);
		if (!run) continue;
		const serials = new Set(run.panels.map((p) => p.serial));
		const passes = panels.filter((p) => serials.has(p.serial));
		const ids = passes.map((p) => p.passId);
		const [visits, calls] = await Promise.all([
			db.selectFrom('inspectionVisit').select(['passId', 'circuit']).where('passId', 'in', ids).groupBy(['passId', 'circuit']).execute(),
			db
				.selectFrom('inspectionCall')
				.innerJoin('inspectionVisit', 'inspectionVisit.id', 'inspectionCall.visitId')
				.select(['inspectionVisit.passId', 'inspectionVisit.circuit', 'inspectionCall.refDes', 'inspectionCall.pin'])
				.where('inspectionVisit.passId', 'in', ids)
				.execute()
		]);
		for (const { padClass, outcome } of outcomesOfRun(
			run,
			passes.map((p) => p.passId),
			visits,
			calls
		))
			outcomes.get(padClass)!.push(outcome);
	}
	return outcomes;
}

/** The curve and the break-even limits of each class of pads of a side. */
export async function consequencesOf(
	boardSideId: number,
	stopCost: number,
	defectCost: number
): Promise<({ padClass: PadClass } & Consequences)[]> {
	const [outcomes, { limits }] = await Promise.all([outcomesOf(boardSideId), currentLimits(db)]);
	return [...outcomes].flatMap(([padClass, list]) =>
		list.length ? [{ padClass, ...consequenceLimits(thinned(list, MOST_GOOD), limits[padClass], stopCost, defectCost) }] : []
	);
}
