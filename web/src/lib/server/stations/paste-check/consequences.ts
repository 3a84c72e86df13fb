import { consequenceLimits, jointOfCall, thinned, type Consequences, type DepositOutcome } from '@keen-relay/core/inspection';
import { PAD_CLASSES, type PadClass } from '@keen-relay/core/parts';
import { db } from '../../db/index.ts';
import { currentLimits } from './limits.ts';
import { inspectedPanels, signatureRun } from '../../queries/readings.ts';

const RUNS = 6;
const PANELS = 80;
/** Good deposits that the curve is fitted to at most: one in k of them stands for k. */
const MOST_GOOD = 20_000;

/** Deposits of a side's latest runs with what inspection after the oven found at their joint, by class of pad.
 * A call that names a pin is that pin's; one that names a part is put to the part's worst deposit: the joint that failed is not known.
 */
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
		const seen = new Set(visits.map((v) => `${v.passId} ${v.circuit}`));
		const n = run.pads.length;
		const padsOf = new Map<string, { index: number; pin: string | null }[]>();
		run.pads.forEach(({ refDes, pin = null }, index) => {
			if (refDes === null) return;
			const list = padsOf.get(refDes);
			if (list) list.push({ index, pin });
			else padsOf.set(refDes, [{ index, pin }]);
		});
		const at = new Map(passes.map((p, m) => [p.passId, m]));
		const bad = new Set<number>();
		for (const call of calls) {
			const m = at.get(call.passId);
			const pads = padsOf.get(`${call.circuit}/${call.refDes}`);
			if (m === undefined || !pads) continue;
			const joint = jointOfCall(pads, call.pin, (p) => run.volumePct[m * n + p]!);
			if (joint !== null) bad.add(m * n + joint);
		}
		run.panels.forEach((_, m) => {
			const passId = passes[m]!.passId;
			run.pads.forEach((pad, p) => {
				const circuit = pad.refDes?.split('/')[0];
				const i = m * n + p;
				// Only what was looked at afterwards has an outcome.
				if (circuit === undefined || !seen.has(`${passId} ${circuit}`) || !(run.volumePct[i]! >= 0)) return;
				outcomes.get(pad.padClass as PadClass)!.push({
					volumePct: run.volumePct[i]!,
					offsetShare: Math.hypot(run.offsetXUm[i]!, run.offsetYUm[i]!) / 1000 / pad.minSideMm || 0,
					defect: bad.has(i)
				});
			});
		});
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
