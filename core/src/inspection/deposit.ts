import { InputError, requireRange, type Level } from '../judgement/index.ts';
import { PAD_CLASS_NAMES, type PadClass } from '../parts/index.ts';
import type { PadSize } from './pad-size.ts';

/** Limits of one pad class: percentages of the nominal, offsets as a share of the opening's own size in that axis. */
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

export type LimitSet = Record<PadClass, DepositLimits>;

/** Mean volume of all windows of one thermal pad, % (common practice). */
const THERMAL_MEAN_PCT: readonly [number, number] = [70, 120];

/** Refuses limits that contradict themselves.
 * @throws {InputError} naming class and field
 */
export function checkLimits(limits: LimitSet): void {
	for (const [padClass, l] of Object.entries(limits)) {
		const path = (field: string) => `${padClass}.${field}`;
		for (const [field, [low, high]] of [
			['volumePct.fail', l.volumePct.fail],
			['volumePct.warn', l.volumePct.warn],
			['heightPct', l.heightPct],
			['areaPct', l.areaPct]
		] as const) {
			requireRange(path(field), low, 0, 100, '%');
			requireRange(path(field), high, 100, 400, '%');
		}
		if (l.volumePct.warn[0] < l.volumePct.fail[0] || l.volumePct.warn[1] > l.volumePct.fail[1])
			throw new InputError('mismatch', path('volumePct.warn'), 'warning limits inside the failing ones', l.volumePct.warn);
		requireRange(path('offsetShare'), l.offsetShare, 0.02, 1);
	}
}

/** Whether new limits let through what the old ones stopped: that needs a named approver. Each place is named. */
export function widened(before: LimitSet, after: LimitSet): string[] {
	return (Object.keys(before) as PadClass[]).flatMap((padClass) => {
		const [a, b] = [before[padClass], after[padClass]];
		const out: string[] = [];
		const name = PAD_CLASS_NAMES[padClass];
		if (b.volumePct.fail[0] < a.volumePct.fail[0] || b.volumePct.fail[1] > a.volumePct.fail[1]) out.push(`${name} volume`);
		if (b.heightPct[0] < a.heightPct[0] || b.heightPct[1] > a.heightPct[1]) out.push(`${name} height`);
		if (b.areaPct[0] < a.areaPct[0] || b.areaPct[1] > a.areaPct[1]) out.push(`${name} area`);
		if (b.offsetShare > a.offsetShare) out.push(`${name} offset`);
		return out;
	});
}

/** Statistical limits may only tighten: mean ± k spreads in whole %, cut at the fixed ones; a process so far off that they would not hold the nominal volume leaves the fixed ones. */
export function statisticalLimits(fixed: DepositLimits, meanPct: number, sigmaPct: number, k = 4): DepositLimits {
	const cut = ([low, high]: [number, number]): [number, number] => [
		Math.max(low, Math.floor(meanPct - k * sigmaPct)),
		Math.min(high, Math.ceil(meanPct + k * sigmaPct))
	];
	const fail = cut(fixed.volumePct.fail);
	return fail[0] < 100 && fail[1] > 100 ? { ...fixed, volumePct: { fail, warn: cut(fixed.volumePct.warn) } } : fixed;
}

export interface Deposit {
	volumePct: number;
	heightPct: number;
	areaPct: number;
	offsetXUm: number;
	offsetYUm: number;
	/** Paste joins it to its neighbour. */
	bridge?: boolean;
}

/** Below this share of the nominal volume nothing was printed, %. */
export const MISSING_PCT = 10;

export type DepositCode = 'bridge' | 'missing' | 'insufficient' | 'excess' | 'offset' | 'height' | 'area';

const out = (value: number, [low, high]: readonly [number, number]) => value < low || value > high;

/** Judges one deposit; all codes, the primary first: bridge, missing (below `MISSING_PCT`), insufficient or excess, offset, height, area.
 * A value exactly on a limit passes; missing suppresses height and area.
 * @param size of the opening in either axis: the offset is judged as a share of it, axis by axis
 */
export function judgeDeposit(
	padClass: PadClass,
	size: PadSize,
	deposit: Deposit,
	limits: DepositLimits = DEPOSIT_LIMITS[padClass]
): { codes: DepositCode[]; warn: boolean } {
	const codes: DepositCode[] = [];
	const [low, high] = limits.volumePct.fail;
	if (deposit.bridge) codes.push('bridge');
	const missing = deposit.volumePct < MISSING_PCT;
	if (missing) codes.push('missing');
	else if (deposit.volumePct < low) codes.push('insufficient');
	if (deposit.volumePct > high) codes.push('excess');
	const share = limits.offsetShare * 1000;
	if (Math.abs(deposit.offsetXUm) > share * size.xMm || Math.abs(deposit.offsetYUm) > share * size.yMm) codes.push('offset');
	// What is not there has no height and no area; where it was found lying it was found.
	if (!missing && out(deposit.heightPct, limits.heightPct)) codes.push('height');
	if (!missing && out(deposit.areaPct, limits.areaPct)) codes.push('area');
	return { codes, warn: codes.length === 0 && out(deposit.volumePct, limits.volumePct.warn) };
}

export interface ThermalMean {
	/** Its windows, by index on the panel. */
	pads: number[];
	meanPct: number;
	within: boolean;
}

/** Mean volume of each thermal pad that is printed through windows: every window may pass while all of them together carry too little or too much.
 * @param classes and `refDes` of one circuit's openings; @param volumePct of the panel, circuit by circuit
 */
export function thermalMeans(
	classes: readonly PadClass[],
	refDes: readonly (string | null)[],
	volumePct: ArrayLike<number>
): ThermalMean[] {
	const windows = new Map<string, number[]>();
	classes.forEach((padClass, i) => {
		const part = refDes[i];
		if (padClass !== 'thermal' || !part) return;
		const own = windows.get(part);
		if (own) own.push(i);
		else windows.set(part, [i]);
	});
	const means: ThermalMean[] = [];
	for (let first = 0; first < volumePct.length; first += classes.length)
		for (const own of windows.values()) {
			if (own.length < 2) continue;
			const pads = own.map((i) => first + i);
			const meanPct = pads.reduce((sum, i) => sum + volumePct[i]!, 0) / pads.length;
			// A window without a reading leaves no mean to judge.
			if (Number.isNaN(meanPct)) continue;
			means.push({ pads, meanPct, within: meanPct >= THERMAL_MEAN_PCT[0] && meanPct <= THERMAL_MEAN_PCT[1] });
		}
	return means;
}

/** Gap that is left between a deposit and the neighbouring pad, mm: pitch − pad/2 − opening/2 − |offset|.
 * The gap between two deposits does not change with an offset that both have.
 */
export function gapToNeighbourMm(pitchMm: number, padMm: number, openingMm: number, offsetUm: number): number {
	return pitchMm - padMm / 2 - openingMm / 2 - Math.abs(offsetUm) / 1000;
}

/** The same gap where the foil between two openings is known and each pad is taken as large as its opening, mm. */
export function gapAcrossWebMm(webMm: number, offsetXUm: number, offsetYUm: number): number {
	return webMm - Math.hypot(offsetXUm, offsetYUm) / 1000;
}

export type PanelResult = 'pass' | 'review' | 'reject';

/** Verdict of a panel: any fail rejects; warnings on more than 1 % of the pads, or three on one part, ask for a look (common practice). */
export function judgePanelPaste(pads: number, fails: number, warnings: number, mostOnOnePart = 0): PanelResult {
	if (fails > 0) return 'reject';
	return warnings > 0.01 * pads || mostOnOnePart >= 3 ? 'review' : 'pass';
}

/** How a panel stands from all that was seen of it; a finished one with nothing against it is good, an unfinished one is only watched. */
export function panelLevel(seen: { paste: PanelResult | null; failedVisits: number; finished: boolean }): Level {
	if (seen.failedVisits > 0 || seen.paste === 'reject') return 'act';
	if (seen.finished) return 'good';
	return seen.paste === null ? 'noData' : 'watch';
}
