import { stagesOf, taktOf } from '$lib/server/boards/release.ts';
import { prints } from '$lib/server/db/results.ts';
import { bladesOf } from '$lib/server/printing/blades.ts';
import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends }) {
	depends('live:results', 'live:line', 'live:boards');
	const { side, sides, run, station, stations, ready, lineId } = await stationPage(params.line, 'print', url);
	const [latest, blades] = await Promise.all([run ? prints(run.id, 60).then((rows) => rows.reverse()) : [], bladesOf(lineId)]);
	const takt = side ? taktOf(stagesOf(stations, side, ready.program?.plan ?? null, ready.recipe?.recipe.beltCmPerMin ?? null)) : null;
	return { side, sides, station, lineId, latest, takt, blades, stencil: ready.stencil };
}
