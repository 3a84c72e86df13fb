import { idOf } from '$lib/server/answer.ts';
import { plantNow } from '$lib/server/line/clock.ts';
import { fridgePlan } from '$lib/server/paste/pull.ts';
import { currentRun } from '$lib/server/runs/start-run.ts';

export async function load({ params, depends, parent }) {
	depends('live:paste', 'live:runs');
	const lineId = idOf(params.line);
	const nowMs = await plantNow();
	const [run, { line }] = await Promise.all([currentRun(lineId), parent()]);
	return { lineId, nowMs, ...(await fridgePlan(lineId, run, line?.taktS ?? null, nowMs)) };
}
