import { db } from '$lib/server/db/index.ts';
import { PAD_CLASS_NAMES, type PadClass } from '@keen-relay/core/parts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { gaugeOf, identityNow, learnedFactors } from '$lib/server/stations/paste-check/unit.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station, lineId } = await stationPage(params.line, 'pasteCheck', url);
	// A panel that was measured again and again may belong to a run that is over.
	const repeated = await db
		.selectFrom('pasteSummary')
		.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.select('run.id')
		.where('run.lineId', '=', lineId)
		.where('pasteSummary.inspectionAttempt', '>', 1)
		.orderBy('pasteSummary.measuredAt', 'desc')
		.executeTakeFirst();
	const [identity, learned, gauge] = await Promise.all([
		run ? identityNow(lineId, run.id) : null,
		learnedFactors(lineId),
		repeated ? gaugeOf(repeated.id) : null
	]);
	return {
		station,
		lineId,
		runId: run?.id ?? null,
		verdict: identity?.verdict ?? null,
		rows: (identity?.today ?? []).map((t) => ({ ...t, name: PAD_CLASS_NAMES[t.group as PadClass], learned: learned.get(t.group) ?? null })),
		gauge: gauge && { ...gauge, rows: gauge.rows.map((r) => ({ ...r, name: PAD_CLASS_NAMES[r.padClass] })) }
	};
}
