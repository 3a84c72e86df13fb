import { prints } from '$lib/server/queries/results.ts';
import { bladesOf } from '$lib/server/stations/print/blades.ts';
import { rejectedPanels } from '$lib/server/stations/print/rejects.ts';
import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends, parent }) {
	depends('live:results', 'live:line', 'live:boards');
	const { side, sides, run, station, ready, lineId } = await stationPage(params.line, 'print', url);
	const [latest, blades, rejects] = await Promise.all([
		run ? prints(run.id, 60).then((rows) => rows.reverse()) : [],
		bladesOf(lineId),
		rejectedPanels(lineId)
	]);
	const { line } = await parent();
	const takt = line?.pace.taktS ? { taktS: line.pace.taktS } : null;
	return { side, sides, station, lineId, latest, takt, blades, rejects, stencil: ready.stencil };
}
