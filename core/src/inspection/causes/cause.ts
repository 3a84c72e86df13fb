import type { CauseCode } from './codes.ts';
import type { Facts } from './facts.ts';
import type { Signature } from './signature.ts';
import type { SignatureThresholds } from './thresholds.ts';

/** What a run shows of a cause. */
export interface Finding extends Pick<Signature, 'size' | 'evidence' | 'candidates' | 'symptomOf'> {
	/** Standard error of the size; 0 where the rule has none. */
	error: number;
	t?: number;
	where?: Signature['where'];
}

export interface CauseText {
	name: string;
	/** What is probably wrong. */
	cause: string;
	/** The next action, an imperative. */
	action: string;
	/** The one cheap test that separates it from its look-alike. */
	test: string;
}

/** A cause: its words, what raises it, and what tells whether an action helped. */
export interface Cause extends CauseText {
	code: CauseCode;
	unit: Signature['unit'];
	/** Size from which it is named. */
	threshold: (th: SignatureThresholds) => number;
	/** Chance that it is the right one where its size stands just at the threshold, 0 to 1. */
	certainty: number;
	/** Panels after an action before it can be judged: as many as the statistic needs to stand. */
	panelsNeeded: number;
	/** Its size is the level of the whole print as a share of what is expected. */
	level?: true;
	/** It is named below its threshold, not above. */
	below?: true;
	/** @param found what was found before it */
	find: (facts: Facts, found: readonly Signature[]) => readonly Finding[];
	/** Its size on other panels of the same pads, signed as it is, with its standard error; null where these panels cannot tell.
	 * Left out where it is what `find` says, and nothing found is a size of 0.
	 */
	statistic?: (facts: Facts, where: Signature['where']) => { value: number; error: number } | null;
}
