import type { JarFacts, JarStatus } from './jar.ts';
import { jarMoves, stateWords, violationWords, type Asked, type JarMove } from './request.ts';
import { PASTE_RULES, type PasteRules } from './rules.ts';

/** What a scanned jar may be used for now: its next step and the others that are open to it, or why it must not be taken. */
export type JarScan =
	| { no: { why: string; /** Of the paste itself, not of the step that was asked for. */ ofPaste: boolean } }
	| { no: null; next: JarMove; moves: JarMove[] };

/** Whether a jar may be taken, and for what.
 * @param asked of the line where it was scanned
 */
export function scanJar(
	facts: JarFacts,
	status: JarStatus,
	asked: Omit<Asked, 'kind'>,
	nowMs: number,
	rules: PasteRules = PASTE_RULES
): JarScan {
	if (status.discardNow) return { no: { why: 'Discard it now.', ofPaste: true } };
	if (status.state === 'quarantined') {
		const why = `In quarantine: ${status.quarantine.map(violationWords).join('; ')}. An engineer reviews it, or it is discarded.`;
		return { no: { why, ofPaste: false } };
	}
	const [next, ...others] = jarMoves(facts, status, asked, nowMs, rules);
	if (!next) return { no: { why: `${facts.id} is ${stateWords(status.state)}. Take another jar.`, ofPaste: false } };
	if (next.no) return { no: { why: `${next.no.why} ${next.no.fix}.`, ofPaste: false } };
	// Putting a jar away is offered on its own page, not where somebody is about to use it.
	return { no: null, next, moves: [next, ...others].filter((m) => m.no === null && m.kind !== 'discard' && m.kind !== 'empty') };
}

/** The jar that a line's next top-up comes from: open, first expired first out.
 * @param jars in that order; @param portions what lies on the line's stencil
 * @returns the jar's id; null where none is open
 */
export function jarForTopUp(
	jars: readonly { facts: Pick<JarFacts, 'id' | 'paste'>; status: Pick<JarStatus, 'state' | 'gramsLeft' | 'discardNow'> }[],
	portions: readonly { jar: string }[],
	wanted: string | null
): string | null {
	const usable = jars.filter(
		({ facts, status }) =>
			facts.paste === wanted && (status.state === 'open' || status.state === 'on_stencil') && status.gramsLeft > 0 && !status.discardNow
	);
	// What lies on this stencil is topped up from its own jar while that lasts; a jar on another stencil is not fetched from there.
	const own = usable.find(({ facts }) => portions.some((p) => p.jar === facts.id));
	return (own ?? usable.find(({ status }) => status.state !== 'on_stencil'))?.facts.id ?? null;
}
