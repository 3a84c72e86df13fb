import { countFails, judgeSignatures, judgeYield, yieldOf } from '@keen-relay/core/inspection';
import { ruleNow } from '../../plant/rules.ts';
import { pasteYield } from '../../queries/results.ts';
import { noRun, percent, type LineContext, type StationRow, type StationSummary } from '../summary.ts';
import { casesOf, causesNow } from './signatures.ts';
import { identityNow } from './unit.ts';

/** Paste check stands by what its panels say of the print: the causes that are open, how many pass, and whether the unit can be believed. Marks on its charts are no calls. */
export async function pasteCheckSummary(station: StationRow, { lineId, run }: LineContext): Promise<StationSummary> {
	if (!run) return noRun();
	const [goals, counts, { report }, cases, unit] = await Promise.all([
		ruleNow('yieldGoals'),
		pasteYield(run.id),
		causesNow(run.id),
		casesOf(run.id),
		identityNow(lineId, run.id)
	]);
	const passed = yieldOf(counts.panels - counts.rejected, counts.panels);
	const worst = countFails(counts.worst.map((w) => ({ refDes: `pad ${w.pad + 1}`, code: w.code }))).byPlace[0];
	return {
		parts: [
			{ verdict: judgeSignatures(report, cases), where: '/causes', right: 'signature.act' },
			{
				verdict: judgeYield(station.name, passed, goals.pasteCheck, worst && worst.count > 1 ? worst.key : null),
				where: '',
				right: null
			},
			{ verdict: unit.verdict, where: '/unit', right: 'unit.learn' }
		],
		dues: [],
		figure: passed.units ? percent(passed.passed / passed.units) : '–',
		words: 'pass at first'
	};
}
