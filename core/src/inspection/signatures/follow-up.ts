import { InputError } from '../../judgement/index.ts';
import { DEFAULT_TRANSFER, type TransferModel } from '../../stencil/index.ts';
import { SIGNATURE_THRESHOLDS, type CauseCode, type SignatureThresholds } from './causes.ts';
import { findSignatures, type Signature } from './find.ts';
import { blockedPads, strokeDifferences } from './local.ts';
import { fitOffsets, medianWithError, spreadWithinStrokes } from './offsets.ts';
import { fitFactors, fitTilt, type Factor } from './regress.ts';
import { prepare, type SignatureRun } from './run.ts';

/** A cause's own statistic, signed as it is, with its standard error; NaN where these panels cannot tell. */
export interface CauseStatistic {
	value: number;
	error: number;
	panels: number;
}

/** Panels after an action before it can be judged: as many as the statistic needs to stand. */
export const PANELS_NEEDED: Partial<Record<CauseCode, number>> = {
	ALIGN_SHIFT: 3,
	ALIGN_ROTATION: 3,
	ALIGN_STRETCH: 3,
	APERTURE_BLOCKED: 3,
	PANEL_OUTLIER: 1,
	MEASUREMENT: 3,
	GAP_HIGH: 4,
	SCOOP: 4,
	SLUMP: 4,
	LEVEL_LOW: 4,
	PEAKS: 4,
	STROKE_PAIR: 8,
	STROKE_OFFSET: 8,
	BLADE_NICK: 8,
	SUPPORT_LOCAL: 6,
	TILT_ACROSS: 6,
	TILT_ALONG: 6
};
const NEEDED = 12;
/** A cause that comes back within this many panels re-opens. */
export const REOPEN_PANELS = 50;

export const panelsNeeded = (code: CauseCode) => PANELS_NEEDED[code] ?? NEEDED;

/** The statistic by which a cause was raised, computed on other panels of the same pads. */
export function causeStatistic(
	run: SignatureRun,
	code: CauseCode,
	where: Signature['where'],
	model: TransferModel = DEFAULT_TRANSFER,
	thresholds: SignatureThresholds = SIGNATURE_THRESHOLDS,
	golden?: ArrayLike<number>
): CauseStatistic {
	if (run.panels.length === 0) throw new InputError('empty', 'run.panels', 'at least one panel', run.panels.length);
	const p = prepare(run, model, golden);
	const panels = run.panels.length;
	const of = (value: number, error: number): CauseStatistic => ({ value, error, panels });
	const none = of(NaN, NaN);
	const padMedian = (values: Float64Array, pads: readonly number[] | undefined) => {
		const list = (pads ?? run.pads.map((_, i) => i)).map((i) => values[i]!).filter(Number.isFinite);
		return medianWithError(list);
	};
	const factor = (name: Factor, y: readonly number[], scale: (reach: number) => number) => {
		const fit = fitFactors(y, run.panels);
		const e = fit.effects[name];
		return e ? of(e.value * scale(fit.reach[name]), e.error * scale(fit.reach[name])) : none;
	};
	switch (code) {
		case 'ALIGN_SHIFT': {
			const f = fitOffsets(p);
			const [x, y] = [medianWithError(f.tx), medianWithError(f.ty)];
			return of(Math.hypot(x.value, y.value), Math.hypot(x.error, y.error));
		}
		case 'ALIGN_ROTATION':
		case 'ALIGN_STRETCH': {
			const f = fitOffsets(p);
			const m = medianWithError((code === 'ALIGN_ROTATION' ? f.theta : f.stretch).map((v) => v * p.rMaxMm));
			return of(m.value, m.error);
		}
		case 'ALIGN_SCATTER': {
			const f = fitOffsets(p);
			const strokes = run.panels.map((m) => m.stroke);
			const spread = Math.max(spreadWithinStrokes(f.tx, strokes), spreadWithinStrokes(f.ty, strokes));
			return of(spread, spread / Math.sqrt(2 * panels));
		}
		case 'STROKE_OFFSET': {
			const f = fitOffsets(p);
			const along = run.strokeAxis === 'x' ? f.tx : f.ty;
			const [a, b] = ['F', 'R'].map((s) => medianWithError(along.filter((_, i) => run.panels[i]!.stroke === s)));
			return of(a!.value - b!.value, Math.hypot(a!.error, b!.error));
		}
		case 'STROKE_PAIR':
			return factor('stroke', p.pa, () => 1);
		case 'CLOG_WIPE':
			return factor('wipe', p.ps, (reach) => reach);
		case 'PASTE_AGING':
			return factor('time', p.pa, () => 1);
		case 'TOPUP_STARVE':
			return factor('topup', p.pa, (reach) => reach);
		case 'ABANDON':
			return factor('pause', p.ps, () => 1);
		case 'TILT_ACROSS':
		case 'TILT_ALONG': {
			const tilt = fitTilt(p);
			const c = code === 'TILT_ACROSS' ? tilt?.across : tilt?.along;
			return c ? of(2 * c.value, 2 * c.error) : none;
		}
		case 'SUPPORT_LOCAL': {
			const here = new Set(where.pads ?? []);
			const others = padMedian(
				p.hr,
				run.pads.flatMap((_, i) => (here.has(i) ? [] : [i]))
			);
			const m = padMedian(p.hr, where.pads);
			return of(100 * Math.log(m.value / others.value), (100 * m.error) / m.value);
		}
		case 'BLADE_NICK': {
			const found = strokeDifferences(p);
			const m = found && padMedian(found.difference, where.pads);
			return m ? of(m.value, m.error) : none;
		}
		case 'APERTURE_BLOCKED': {
			const all = new Map(blockedPads(p, -Infinity).map((b) => [b.pad, b.size]));
			const m = medianWithError((where.pads ?? []).flatMap((i) => (all.has(i) ? [all.get(i)!] : [])));
			return of(m.value, m.error || 3);
		}
		case 'PANEL_OUTLIER': {
			const m = medianWithError(p.pa.map(Math.abs));
			return of(m.value, m.error);
		}
		default: {
			// What the finder itself measures for the whole print: no finding is a statistic inside its limit.
			const found = findSignatures(run, model, { ...thresholds, leastPanels: 1, leastPads: 1, bridgePanels: 1 }, golden).signatures.find(
				(s) => s.code === code
			);
			return found ? of(found.size, (found.high - found.low) / 3.92) : of(0, 0);
		}
	}
}

export interface FollowUp {
	answer: 'better' | 'noBetter' | 'tooEarly';
	/** Panels that are still needed. */
	stillNeeded: number;
	before: CauseStatistic;
	after: CauseStatistic | null;
	statement: string;
}

/** Whether an action helped: the panels before and after by the cause's own statistic.
 * Better where the statistic fell below its threshold and by more than chance would (two standard errors of the difference).
 * @param after panels since the action was marked done
 */
export function followUp(
	before: SignatureRun,
	after: SignatureRun | null,
	signature: Pick<Signature, 'code' | 'where' | 'threshold' | 'size'>,
	model: TransferModel = DEFAULT_TRANSFER,
	thresholds: SignatureThresholds = SIGNATURE_THRESHOLDS,
	golden?: ArrayLike<number>
): FollowUp {
	const { code, where, threshold } = signature;
	const then = causeStatistic(before, code, where, model, thresholds, golden);
	const have = after?.panels.length ?? 0;
	const stillNeeded = Math.max(0, panelsNeeded(code) - have);
	if (!after || stillNeeded > 0)
		return { answer: 'tooEarly', stillNeeded, before: then, after: null, statement: `Too early: ${stillNeeded} more panels are needed.` };
	const now = causeStatistic(after, code, where, model, thresholds, golden);
	if (!Number.isFinite(now.value))
		return {
			answer: 'tooEarly',
			stillNeeded: 4,
			before: then,
			after: now,
			statement: 'Too early: these panels do not vary it yet; 4 more, over a wipe.'
		};
	const ratioRule = code === 'SCOOP' || code === 'LEVEL_LOW' || code === 'GAP_HIGH' || code === 'SLUMP';
	const inside = ratioRule ? now.value === 0 : Math.abs(now.value) < threshold;
	const gain = ratioRule ? 3 : (Math.abs(then.value) - Math.abs(now.value)) / Math.hypot(then.error || 0, now.error || 0, 1e-9);
	const better = inside && gain >= 2;
	const show = (s: CauseStatistic) =>
		ratioRule && s.value === 0 ? 'inside its limit' : Math.abs(s.value).toFixed(ratioRule || Math.abs(s.value) < 2 ? 2 : 1);
	return {
		answer: better ? 'better' : 'noBetter',
		stillNeeded: 0,
		before: then,
		after: now,
		statement: `${better ? 'Better' : 'No better'}: ${show(then)} before, ${show(now)} over the ${have} panels since.`
	};
}

/** Whether a cause that was cured is back: it is found again within 50 panels of the action. */
export function reopens(code: CauseCode, panelsSinceAction: number, latest: readonly Pick<Signature, 'code'>[]): boolean {
	return panelsSinceAction <= REOPEN_PANELS && latest.some((s) => s.code === code);
}
