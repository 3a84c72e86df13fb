import { asMade, checkStencil, withOwnLimits, type Wall } from '@keen-relay/core/stencil';
import { refuse } from '../../answer.ts';
import { type Actor } from '../../plant/log.ts';
import { currentModel, factorsOn } from '../../queries/transfer.ts';
import { namedOpenings } from '@keen-relay/core/boards';
import { release } from '../../queries/revisions.ts';
import { sideOrRefuse } from '../../queries/revisions.ts';

/** Releases a stencil at one foil. Its verdict is kept with it, whatever it says: a person decided. */
export async function releaseStencil(
	actor: Actor,
	sideId: number,
	{ foilUm, wall, taperUm, ownLimits }: { foilUm: number; wall: Wall; taperUm: number | null; ownLimits: Record<string, number> },
	startedFrom: number | null
) {
	const side = await sideOrRefuse(sideId);
	const [model, factors] = await Promise.all([currentModel(), factorsOn(wall, sideId)]);
	const unknown = Object.keys(ownLimits).find((i) => side.apertures[Number(i)] === undefined);
	if (unknown !== undefined) refuse('ownLimits', unknown, `This side has ${side.apertures.length} openings.`);
	const openings = withOwnLimits(asMade(namedOpenings(side.apertures), { taperUm, factors }), ownLimits);
	const { verdict } = checkStencil(openings, foilUm / 1000, wall, model);
	return release(
		actor,
		'stencil',
		sideId,
		null,
		'stencil.release',
		(r) => `${side.name} ${side.side}, stencil ${r}, ${foilUm} µm`,
		{
			foilUm,
			wall,
			taperUm,
			ownLimits: JSON.stringify(ownLimits),
			verdict: JSON.stringify(verdict)
		},
		startedFrom
	);
}
