import { idOf } from '$lib/server/answer.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { fridgePlan } from '$lib/server/stations/paste/pull.ts';
import { currentRun } from '$lib/server/queries/runs.ts';

export async function load({ params, depends, parent }) {
	depends('live:paste', 'live:runs');
	const lineId = idOf(params.line);
	const nowMs = await plantNow();
	const [run, { line }] = await Promise.all([currentRun(lineId), parent()]);
	return { lineId, nowMs, ...(await fridgePlan(lineId, run, line?.pace.taktS ?? null, nowMs)) };
}
