import { PAD_CLASS_NAMES, type PadClass } from '@keen-relay/core/parts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { gaugeOf, identityNow, learnedFactors } from '$lib/server/stations/paste-check/unit.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station, lineId } = await stationPage(params.line, 'pasteCheck', url);
	const [identity, learned, gauge] = await Promise.all([run ? identityNow(lineId, run.id) : null, learnedFactors(lineId), gaugeOf(lineId)]);
	return {
		station,
		lineId,
		runId: run?.id ?? null,
		verdict: identity?.verdict ?? null,
		rows: (identity?.today ?? []).map((t) => ({ ...t, name: PAD_CLASS_NAMES[t.group as PadClass], learned: learned.get(t.group) ?? null })),
		gauge: gauge && { ...gauge, rows: gauge.rows.map((r) => ({ ...r, name: PAD_CLASS_NAMES[r.padClass] })) }
	};
}
