import type { Level } from '../judgement/index.ts';
import type { PadClass } from '../parts/index.ts';

/** Limits of one pad class: percentages of the nominal, offsets as a share of the opening's width. */
export interface DepositLimits {
	volumePct: { fail: [number, number]; warn: [number, number] };
	heightPct: [number, number];
	areaPct: [number, number];
	offsetShare: number;
}

/** Values to start from, by class; a plant sets its own (common practice). */
export const DEPOSIT_LIMITS: Record<PadClass, DepositLimits> = {
	fineBallGrid: { volumePct: { fail: [60, 150], warn: [75, 130] }, heightPct: [60, 150], areaPct: [60, 150], offsetShare: 0.25 },
	smallChip: { volumePct: { fail: [60, 160], warn: [70, 145] }, heightPct: [60, 150], areaPct: [60, 150], offsetShare: 0.25 },
	chip: { volumePct: { fail: [50, 170], warn: [65, 150] }, heightPct: [55, 160], areaPct: [55, 150], offsetShare: 0.3 },
	fineLead: { volumePct: { fail: [60, 140], warn: [75, 125] }, heightPct: [60, 150], areaPct: [60, 140], offsetShare: 0.2 },
	thermal: { volumePct: { fail: [50, 150], warn: [60, 140] }, heightPct: [50, 140], areaPct: [50, 140], offsetShare: 0.3 },
	large: { volumePct: { fail: [60, 140], warn: [75, 125] }, heightPct: [60, 140], areaPct: [60, 140], offsetShare: 0.3 }
};

export interface Deposit {
	volumePct: number;
	heightPct: number;
	areaPct: number;
	offsetXUm: number;
	offsetYUm: number;
}

export type DepositCode = 'missing' | 'insufficient' | 'excess' | 'offset' | 'height' | 'area';

const out = (value: number, [low, high]: readonly [number, number]) => value < low || value > high;

/** Judges one deposit; all codes, the primary first. A value exactly on a limit passes; below 10 % it is missing.
 * @param widthMm governing width of the opening, for the offset
 */
export function judgeDeposit(padClass: PadClass, widthMm: number, deposit: Deposit): { codes: DepositCode[]; warn: boolean } {
	const limits = DEPOSIT_LIMITS[padClass];
	const codes: DepositCode[] = [];
	const [low, high] = limits.volumePct.fail;
	if (deposit.volumePct < 10) return { codes: ['missing'], warn: false };
	if (deposit.volumePct < low) codes.push('insufficient');
	if (deposit.volumePct > high) codes.push('excess');
	const reachUm = limits.offsetShare * widthMm * 1000;
	if (Math.abs(deposit.offsetXUm) > reachUm || Math.abs(deposit.offsetYUm) > reachUm) codes.push('offset');
	if (out(deposit.heightPct, limits.heightPct)) codes.push('height');
	if (out(deposit.areaPct, limits.areaPct)) codes.push('area');
	return { codes, warn: codes.length === 0 && out(deposit.volumePct, limits.volumePct.warn) };
}

export type PanelResult = 'pass' | 'review' | 'reject';

/** Verdict of a panel: any fail rejects; warnings on more than 1 % of the pads ask for a look (common practice). */
export function judgePanelPaste(pads: number, fails: number, warnings: number): PanelResult {
	if (fails > 0) return 'reject';
	return warnings > 0.01 * pads ? 'review' : 'pass';
}

/** How a panel stands from all that was seen of it; a finished one with nothing against it is good, an unfinished one is only watched. */
export function panelLevel(seen: { paste: PanelResult | null; failedVisits: number; finished: boolean }): Level {
	if (seen.failedVisits > 0 || seen.paste === 'reject') return 'act';
	if (seen.finished) return 'good';
	return seen.paste === null ? 'noData' : 'watch';
}
