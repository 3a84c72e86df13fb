import { machineData } from '$lib/stations/index.ts';
import { db } from '$lib/server/db/index.ts';
import { packageReader } from '$lib/server/queries/packages.ts';
import { profilesOf } from '$lib/server/stations/oven/profiles.ts';
import { correctedSince } from '$lib/server/queries/stations.ts';
import { ovenPasses } from '$lib/server/queries/results.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { boardSpots, recipeAge, startingRecipe } from '@keen-relay/core/reflow';

export async function load({ params, url, depends }) {
	depends('live:boards', 'live:results');
	const { side, sides, parts, station, ready, lineId, run } = await stationPage(params.line, 'oven', url);
	const pastes = await db.selectFrom('paste').selectAll().orderBy('id').execute();
	const { oven, gapMm } = machineData(station, 'oven')!;
	const paste = pastes.find((p) => p.id === ready.recipe?.pasteId) ?? pastes[0]!;
	const { recipe: row } = ready;
	// What runs keeps the oven that it was begun with.
	const corrected = row && !side?.running ? await correctedSince(lineId, 'oven', row.createdAt) : [];
	const old = row ? recipeAge(oven, row, corrected.length > 0) : null;
	return {
		side,
		sides,
		station,
		oven,
		gapMm,
		lineId,
		pastes,
		pasteId: paste.id,
		spots: side && parts ? boardSpots(side.build, parts, oven, await packageReader()) : [],
		recipe: ready.recipe ? { revision: ready.recipe.revision, ...ready.recipe.recipe } : null,
		profiles: side ? await profilesOf(side.id, lineId) : [],
		old: old?.words ?? null,
		start: row && !old?.misfit ? row.recipe : startingRecipe(oven, paste.window),
		passes: run && side?.running ? await ovenPasses(run.id, 1) : []
	};
}
