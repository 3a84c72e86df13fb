import { stagesOf, taktOf } from '$lib/server/boards/release.ts';
import { prints } from '$lib/server/db/results.ts';
import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends }) {
	depends('live:results', 'live:line', 'live:boards');
	const { side, sides, run, station, stations, ready } = await stationPage(params.line, 'print', url);
	const latest = run ? (await prints(run.id, 60)).reverse() : [];
	const takt = side ? taktOf(stagesOf(stations, side, ready.program?.plan ?? null, ready.recipe?.recipe.beltCmPerMin ?? null)) : null;
	return { side, sides, station, latest, takt, stencil: ready.stencil };
}
