import { DEPOSIT_LIMITS } from '@keen-relay/core/inspection';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { needsOf } from '$lib/server/printing/joint-needs.ts';
import { currentModel, currentRules, measuredGroups } from '$lib/server/printing/opening-rules.ts';

export async function load({ params, url, depends }) {
	depends('live:boards');
	const { side, sides, station, ready, lineId, run } = await stationPage(params.line, 'print', url);
	const [{ revision, rules }, model, fit, groups, needs] = await Promise.all([
		currentRules(),
		currentModel(),
		db.selectFrom('transferFit').select(['revision', 'fit']).orderBy('revision', 'desc').executeTakeFirst(),
		run ? measuredGroups(run.id) : [],
		side ? needsOf(side.id) : []
	]);
	return {
		side,
		sides,
		station,
		lineId,
		stencil: ready.stencil,
		revision,
		rules,
		model,
		fit: fit ?? null,
		groups,
		needs,
		runId: run?.id ?? null,
		lowPct: Object.fromEntries(Object.entries(DEPOSIT_LIMITS).map(([c, l]) => [c, l.volumePct.fail[0]]))
	};
}
