import { judgeMagazines, judgeRound, ROUND_RULES } from '@keen-relay/core/feeders';
import { noData } from '@keen-relay/core/judgement';
import { stationPage } from '$lib/server/line/station-page.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { magazinesOf } from '$lib/server/queries/magazines.ts';
import { reels } from '$lib/server/queries/results.ts';
import { runOutOf } from '$lib/server/stations/place/run-out.ts';

/** When each slot of the line runs out, and in which order one technician splices. */
export async function load({ params, url, depends, parent }) {
	depends('live:results', 'live:line', 'live:parts');
	const { station, lineId, run } = await stationPage(params.line, 'place', url, params.station);
	const nowMs = await plantNow();
	const taktS = (await parent()).line?.pace?.taktS ?? null;
	const ahead = run && taktS !== null ? await runOutOf(lineId, run, await reels(run.id), nowMs, taktS) : null;
	return {
		station: { id: station.id, name: station.name },
		nowMs,
		aheadH: ROUND_RULES.aheadH,
		verdict: ahead
			? (judgeMagazines(ahead.standing, nowMs) ?? judgeRound(ahead.round))
			: noData('Nothing runs here yet: no slot runs out.', ['Set up a job']),
		lineId,
		ends: ahead?.ends ?? [],
		magazines: (await magazinesOf(lineId)).map(({ setAt, ...magazine }) => ({ ...magazine, setMs: setAt.getTime() })),
		standing: ahead?.standing ?? [],
		rule: ahead?.rule ?? null,
		round: ahead?.round ?? null,
		banks: ahead?.banks ?? [],
		lengthM: ahead?.lengthM ?? 1
	};
}
