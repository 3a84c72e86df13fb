import type { Verdict } from '../judgement/index.ts';
import type { Action } from '../people/index.ts';

/** What can be held. */
export const HOLD_KINDS = ['panel', 'jar'] as const;
export type HoldKind = (typeof HOLD_KINDS)[number];

/** Something that must not go on until somebody says so. */
export interface Hold {
	kind: HoldKind;
	/** Serial, jar: what it is known by. */
	subject: string;
	/** Which of its reasons: a thing may be held for more than one. */
	code: string;
	/** A sentence. */
	why: string;
	sinceMs: number;
	/** Kinds of station that do not work on it. */
	obeys: readonly string[];
	/** The right that lifts it. */
	lifts: Action;
}

/** Pads that failed, in words, by what is wrong with them. */
function failWords(worst: readonly { code: string }[], fails: number): string {
	const counts = new Map<string, number>();
	for (const { code } of worst) counts.set(code, (counts.get(code) ?? 0) + 1);
	const named = [...counts].sort((a, b) => b[1] - a[1]).map(([code, n]) => `${n} ${code}`);
	return named.length && worst.length >= fails ? ` (${named.join(', ')})` : '';
}

/** A panel whose paste was rejected is held before the placers and the oven: parts on bad paste cost more than a wash.
 * @param attempt print that was rejected
 * @see common practice
 */
export function pasteReject(
	panel: string,
	attempt: number,
	{ fails, pads, worst }: { fails: number; pads: number; worst: readonly { code: string }[] },
	sinceMs: number
): Hold {
	return {
		kind: 'panel',
		subject: panel,
		code: 'paste_reject',
		why: `Paste check rejected print ${attempt}: ${fails} of ${pads} ${pads === 1 ? 'pad fails' : 'pads fail'}${failWords(worst, fails)}.`,
		sinceMs,
		obeys: ['place', 'oven'],
		lifts: 'hold.lift'
	};
}

/** A jar in quarantine is held before the printer.
 * @param reasons in words
 */
export function jarQuarantine(jar: string, reasons: readonly string[], sinceMs: number): Hold {
	return {
		kind: 'jar',
		subject: jar,
		code: 'quarantine',
		why: `${reasons.map((r) => r.charAt(0).toUpperCase() + r.slice(1)).join('. ')}.`,
		sinceMs,
		obeys: ['print'],
		lifts: 'jar.review'
	};
}

/** What the printer is asked for by panels that are held because of their paste; null where none is. */
export function judgeRejects(holds: readonly Pick<Hold, 'subject' | 'why'>[]): Verdict | null {
	const [first] = holds;
	if (!first) return null;
	return {
		level: 'act',
		statement:
			holds.length === 1
				? `${first.subject} is held before the placers. ${first.why}`
				: `${holds.length} panels are held before the placers, ${first.subject} first.`,
		because: holds.map((h) => ({ quantity: h.subject, value: 'held', unit: '', limit: h.why, source: 'the limits of the paste check' })),
		doNext: [`Take ${first.subject} off and wash it, or have an engineer’s leave`]
	};
}
