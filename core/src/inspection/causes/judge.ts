import { noData, type Verdict } from '../../judgement/index.ts';
import type { Signature } from './signature.ts';
import { CAUSES } from './causes.ts';
import type { CauseCode } from './codes.ts';
import type { SignatureReport } from './find.ts';

/** How the case of a cause stands: open, acted on and watched, answered by the panels, or laid aside. */
export type CaseState = 'open' | 'done' | 'better' | 'noBetter' | 'dismissed';

export interface CauseCase {
	code: CauseCode;
	state: CaseState;
	/** What the panels since the action say. */
	answer: { statement: string } | null;
}

/** A cause still waits for somebody, or the action against it did not help. */
export const waits = (cases: readonly CauseCase[], code: CauseCode): boolean =>
	!cases.some((c) => c.code === code && (c.state === 'done' || c.state === 'better' || c.state === 'dismissed'));

/** The verdict on a run's causes: the first that waits for an action. One that was acted on is watched, for as long as panels from before are looked back on.
 * @param cases of this run, one a cause
 * @returns "no data" where too little was measured: never "all right"
 */
export function judgeSignatures(report: SignatureReport, cases: readonly CauseCase[] = []): Verdict {
	const { signatures, notJudged, panels } = report;
	const waiting = signatures.find((s) => waits(cases, s.code));
	if (waiting)
		return {
			level: waiting.code === 'MEASUREMENT' ? 'stopped' : 'act',
			statement: `${CAUSES[waiting.code].name}. ${waiting.evidence}`,
			because: signatures.map(reasonOf),
			doNext: [CAUSES[waiting.code].action, CAUSES[waiting.code].test]
		};
	const [first] = signatures;
	if (first) {
		const own = cases.find((c) => c.code === first.code)!;
		const said = own.answer?.statement ?? (own.state === 'dismissed' ? 'Laid aside.' : 'Acted on: too early to say.');
		return {
			level: 'watch',
			statement: `${CAUSES[first.code].name}. ${said}`,
			because: signatures.map(reasonOf),
			doNext: own.state === 'dismissed' ? [] : ['Watch the next panels: the latest ones still hold some from before the action']
		};
	}
	if (panels === 0) return noData(notJudged[0]?.why ?? 'Too few panels.');
	const tooLittle = notJudged.find((n) => n.codes.length === 0);
	return tooLittle
		? noData(tooLittle.why)
		: { level: 'good', statement: `Nothing stands out in the latest ${panels} panels.`, because: [], doNext: [] };
}

function reasonOf(s: Signature): Verdict['because'][number] {
	const say = (value: number) => value.toFixed(Math.abs(s.size) < 2 ? 2 : 1);
	return {
		quantity: CAUSES[s.code].name,
		value: `${say(s.size)} (${say(s.low)} to ${say(s.high)})`,
		unit: s.unit,
		limit: `names it from ${s.threshold}${s.t === null ? '' : `, and |t| of 4: ${Math.abs(s.t).toFixed(1)}`}`,
		source: 'our model’s starting values; tune them on your own runs'
	};
}
