import { panelGeometry } from '@keen-relay/core/artwork';
import { noData } from '@keen-relay/core/judgement';
import { stationPage } from '$lib/server/line/station-page.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { boardSide } from '$lib/server/queries/sides.ts';
import { trimActions } from '$lib/server/queries/trims.ts';
import { offsetsOf } from '$lib/server/stations/place/offsets.ts';
import { TRIM_DAYS } from '$lib/server/stations/place/trims.ts';

/** Where a placer puts its parts, what is trimmed, and what became of it. */
export async function load({ params, url, depends }) {
	depends('live:results', 'live:parts');
	const { station, stations, lineId, run } = await stationPage(params.line, 'place', url, params.station);
	const own = { station: { id: station.id, name: station.name }, lineId, days: TRIM_DAYS };
	const side = run && (await boardSide(run.boardSideId));
	if (!run || !side) return { ...own, offsets: null, verdict: noData('Nothing runs here yet: nothing is measured.', ['Set up a job']) };
	const offsets = await offsetsOf(station, stations, run, await plantNow());
	return {
		...own,
		offsets,
		verdict: offsets.verdict,
		side: {
			id: side.id,
			name: side.name,
			side: side.side,
			widthMm: side.widthMm,
			heightMm: side.heightMm,
			panel: panelGeometry(side, side.panel, side.side)
		},
		actions: await trimActions(offsets.trims.map((t) => t.id)),
		program: run.programRevision
	};
}
