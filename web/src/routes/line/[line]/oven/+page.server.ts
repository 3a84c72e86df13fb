import { db } from '$lib/server/db/index.ts';
import { packageReader } from '$lib/server/boards/packages.ts';
import { profilesOf } from '$lib/server/boards/profiles.ts';
import { ovenPasses } from '$lib/server/db/results.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { boardSpots, startingRecipe } from '@keen-relay/core/reflow';

export async function load({ params, url, depends }) {
	depends('live:boards', 'live:results');
	const { side, sides, parts, station, ready, lineId, run } = await stationPage(params.line, 'oven', url);
	const pastes = await db.selectFrom('paste').selectAll().orderBy('id').execute();
	const oven = station.spec.oven!;
	const paste = pastes.find((p) => p.id === ready.recipe?.pasteId) ?? pastes[0]!;
	return {
		side,
		sides,
		station,
		lineId,
		pastes,
		pasteId: paste.id,
		spots: side && parts ? boardSpots(side.build, parts, oven, await packageReader()) : [],
		recipe: ready.recipe ? { revision: ready.recipe.revision, ...ready.recipe.recipe } : null,
		profiles: side ? await profilesOf(side.id, lineId) : [],
		start: ready.recipe?.recipe ?? startingRecipe(oven, paste.window),
		passes: run && side?.running ? await ovenPasses(run.id, 1) : []
	};
}
