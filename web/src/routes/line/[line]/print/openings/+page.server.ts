import { DEPOSIT_LIMITS } from '@keen-relay/core/inspection';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { needsOf } from '$lib/server/stations/print/joint-needs.ts';
import { measuredGroups } from '$lib/server/stations/print/opening-rules.ts';
import { currentFactors, currentModel, currentRules } from '$lib/server/queries/transfer.ts';

export async function load({ params, url, depends }) {
	depends('live:boards');
	const { side, sides, station, ready, lineId, run } = await stationPage(params.line, 'print', url);
	const pasteId = ready.recipe?.pasteId ?? null;
	const [{ revision, rules }, model, fit, groups, needs, factors, paste] = await Promise.all([
		currentRules(),
		currentModel(),
		db.selectFrom('transferFit').select(['revision', 'fit']).orderBy('revision', 'desc').executeTakeFirst(),
		run ? measuredGroups(run.id) : [],
		side ? needsOf(side.id) : [],
		currentFactors(pasteId),
		pasteId === null
			? null
			: db
					.selectFrom('paste')
					.select(['name', 'powder', 'metalMassShare', 'metalGPerCm3'])
					.where('id', '=', pasteId)
					.executeTakeFirstOrThrow()
	]);
	// Where the curve was measured: the fit that is kept, and what runs now.
	const ratios = [...(fit ? [fit.fit.from, fit.fit.to] : []), ...groups.map((g) => g.areaRatio)];
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
		measured: ratios.length ? { from: Math.min(...ratios), to: Math.max(...ratios) } : null,
		needs,
		factors,
		paste,
		runId: run?.id ?? null,
		lowPct: Object.fromEntries(Object.entries(DEPOSIT_LIMITS).map(([c, l]) => [c, l.volumePct.fail[0]]))
	};
}
