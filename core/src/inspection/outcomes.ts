import type { PadClass } from '../parts/index.ts';
import type { SignatureRun } from './causes/index.ts';
import { jointOfCall, type DepositOutcome } from './consequence.ts';

/** Deposits of a run with what inspection after the oven found at their joint. Only what was looked at afterwards has an outcome.
 * A call that names a pin is that pin's; one that names a part is put to the part's worst deposit: the joint that failed is not known.
 * @param passes the pass of each panel of the run, in their order; @param visits circuits that were looked at
 */
export function outcomesOfRun(
	run: SignatureRun,
	passes: readonly number[],
	visits: readonly { passId: number; circuit: number }[],
	calls: readonly { passId: number; circuit: number; refDes: string; pin: string | null }[]
): { padClass: PadClass; outcome: DepositOutcome }[] {
	const seen = new Set(visits.map((v) => `${v.passId} ${v.circuit}`));
	const n = run.pads.length;
	const padsOf = new Map<string, { index: number; pin: string | null }[]>();
	run.pads.forEach(({ refDes, pin = null }, index) => {
		if (refDes === null) return;
		const list = padsOf.get(refDes);
		if (list) list.push({ index, pin });
		else padsOf.set(refDes, [{ index, pin }]);
	});
	const panelOf = new Map(passes.map((passId, m) => [passId, m]));
	const bad = new Set<number>();
	for (const call of calls) {
		const m = panelOf.get(call.passId);
		const pads = padsOf.get(`${call.circuit}/${call.refDes}`);
		if (m === undefined || !pads) continue;
		const joint = jointOfCall(pads, call.pin, (p) => run.volumePct[m * n + p]!);
		if (joint !== null) bad.add(m * n + joint);
	}
	return passes.flatMap((passId, m) =>
		run.pads.flatMap((pad, p) => {
			const circuit = pad.refDes?.split('/')[0];
			const i = m * n + p;
			if (circuit === undefined || !seen.has(`${passId} ${circuit}`) || !(run.volumePct[i]! >= 0)) return [];
			const { xMm, yMm } = pad.sizeMm ?? { xMm: pad.minSideMm, yMm: pad.minSideMm };
			const offsetShare = Math.max(Math.abs(run.offsetXUm[i]!) / xMm, Math.abs(run.offsetYUm[i]!) / yMm) / 1000 || 0;
			return [{ padClass: pad.padClass as PadClass, outcome: { volumePct: run.volumePct[i]!, offsetShare, defect: bad.has(i) } }];
		})
	);
}
