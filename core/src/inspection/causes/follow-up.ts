import { InputError } from '../../judgement/index.ts';
import { DEFAULT_TRANSFER, type TransferModel } from '../../stencil/index.ts';
import type { Signature } from './signature.ts';
import { CAUSES } from './causes.ts';
import type { CauseCode } from './codes.ts';
import { Facts } from './facts.ts';
import { findSignatures } from './find.ts';
import { prepare, type SignatureRun } from './run.ts';
import { SIGNATURE_THRESHOLDS, type SignatureThresholds } from './thresholds.ts';

/** A cause's own statistic, signed as it is, with its standard error; NaN where these panels cannot tell. */
export interface CauseStatistic {
	value: number;
	error: number;
	panels: number;
}

/** A cause that comes back within this many panels re-opens. */
export const REOPEN_PANELS = 50;

export const panelsNeeded = (code: CauseCode) => CAUSES[code].panelsNeeded;

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
	const panels = run.panels.length;
	const { statistic } = CAUSES[code];
	if (statistic) {
		const { value, error } = statistic(new Facts(prepare(run, model, golden), thresholds), where) ?? { value: NaN, error: NaN };
		return { value, error, panels };
	}
	// What the finder itself measures for the whole print: no finding is a statistic inside its limit.
	const { signatures } = findSignatures(run, model, { ...thresholds, leastPanels: 1, leastPads: 1, bridgePanels: 1 }, golden);
	const found = signatures.find((s) => s.code === code);
	return found ? { value: found.size, error: (found.high - found.low) / 3.92, panels } : { value: 0, error: 0, panels };
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
	const ratioRule = CAUSES[code].level === true;
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

/** Where an act stands among prints: those that were out of the printer before it, and those that were begun after it. What was being printed just then counts on
 * neither side, and what was inspected only afterwards counts by when it was printed.
 * @param printedMs when each print was done, ascending
 * @returns how many prints lie before, and the index of the first that counts as after
 */
export function splitAtAct(printedMs: readonly number[], doneMs: number): { before: number; from: number } {
	const before = printedMs.filter((ms) => ms <= doneMs).length;
	return { before, from: Math.min(before + 1, printedMs.length) };
}
