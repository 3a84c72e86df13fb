import { boardSpots, checkProfile, type OvenRecipe, type PasteWindow } from '@keen-relay/core/reflow';
import { machineData } from '$lib/stations/index.ts';
import { refuse } from '../../answer.ts';
import { db } from '../../db/index.ts';
import { type Actor } from '../../plant/log.ts';
import { packageReader } from '../../queries/packages.ts';
import { release } from '../../queries/revisions.ts';
import { sideOrRefuse } from '../../queries/revisions.ts';
import { stationsOf } from '../../queries/stations.ts';

async function pasteById(pasteId: number): Promise<{ id: number; name: string; window: PasteWindow }> {
	const paste = await db.selectFrom('paste').selectAll().where('id', '=', pasteId).executeTakeFirst();
	return paste ?? refuse('paste', pasteId, 'There is no such paste.');
}

/** Releases an oven recipe. One that breaks the paste's window is refused: it must not be run. */
export async function releaseRecipe(
	actor: Actor,
	sideId: number,
	lineId: number,
	pasteId: number,
	recipe: OvenRecipe,
	startedFrom: number | null
) {
	const [side, stations, paste] = await Promise.all([sideOrRefuse(sideId), stationsOf(lineId), pasteById(pasteId)]);
	const oven = stations.map((station) => machineData(station, 'oven')).find((data) => data !== null)?.oven;
	if (!oven) return refuse('line', lineId, 'This line has no oven.');
	const check = checkProfile(oven, recipe, boardSpots(side.build, side.parts, oven, await packageReader()), paste.window);
	if (check.usePct > 100)
		return refuse('recipe', `${recipe.setC.join(' ')}, ${recipe.beltCmPerMin} cm/min`, `Not released. ${check.verdict.statement}`);
	return release(
		actor,
		'ovenRecipe',
		sideId,
		lineId,
		'recipe.release',
		(r) => `${side.name} ${side.side}, oven recipe ${r}`,
		{
			pasteId,
			recipe: JSON.stringify(recipe),
			usePct: Number.isFinite(check.usePct) ? check.usePct : null,
			verdict: JSON.stringify(check.verdict)
		},
		startedFrom
	);
}
