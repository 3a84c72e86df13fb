import { noData } from '@keen-relay/core/judgement';
import { stationPage } from '$lib/server/line/station-page.ts';
import { LATEST_PANELS, picksOf, wearingAt } from '$lib/server/stations/place/picks.ts';

/** How a placer's picks go, slot by slot and nozzle by nozzle, and what wears by them. */
export async function load({ params, url, depends }) {
	depends('live:results', 'live:parts');
	const { station, lineId, run } = await stationPage(params.line, 'place', url, params.station);
	const [report, wearing] = await Promise.all([run ? picksOf(station, run) : null, wearingAt(station.id)]);
	return {
		station: { id: station.id, name: station.name },
		lineId,
		latest: LATEST_PANELS,
		report,
		verdict: report?.verdict ?? noData('Nothing runs here yet: no picks are counted.', ['Set up a job']),
		wearing
	};
}
