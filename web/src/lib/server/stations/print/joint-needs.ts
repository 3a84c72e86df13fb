import { asMade, chooseFoil, stepArea, withNeeds, type Wall } from '@keen-relay/core/stencil';
import { openingNames } from '@keen-relay/core/boards';
import { refuse } from '../../answer.ts';
import { boardSide } from '../../queries/sides.ts';
import { announce, db, type Db, type Trx } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { lockKey, refuseOverwritten } from '../../queries/started-from.ts';
import { currentModel, factorsOn, orderedOpenings } from '../../queries/transfer.ts';

/** Paste that each joint of a part needs, mm³, by part. */
export async function needsOf(boardSideId: number, trx: Db | Trx = db): Promise<{ refDes: string; neededMm3: number; why: string }[]> {
	const rows = await trx
		.selectFrom('jointNeed')
		.distinctOn('refDes')
		.select(['refDes', 'neededMm3', 'why'])
		.where('boardSideId', '=', boardSideId)
		.orderBy('refDes')
		.orderBy('id', 'desc')
		.execute();
	return rows.flatMap(({ refDes, neededMm3, why }) => (neededMm3 === null ? [] : [{ refDes, neededMm3, why }]));
}

/** Says what the joints of a part need, or takes it back with null. What was said before stays on record. */
export async function setNeed(
	actor: Actor,
	boardSideId: number,
	refDes: string,
	neededMm3: number | null,
	why: string,
	startedFrom: number | null
): Promise<{ refDes: string }> {
	const side = (await boardSide(boardSideId)) ?? refuse('side', boardSideId, 'There is no such board side.');
	if (!side.apertures.some((a) => a.refDes === refDes)) refuse('refDes', refDes, 'No opening of this side lies under that part.');
	const setAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await lockKey(trx, `need ${boardSideId} ${refDes}`);
		const stands = (await needsOf(boardSideId, trx)).find((need) => need.refDes === refDes)?.neededMm3 ?? null;
		refuseOverwritten(startedFrom, stands, `What ${refDes} needs, mm³`);
		await trx.insertInto('jointNeed').values({ boardSideId, refDes, neededMm3, why, setBy: actor.id, setAt }).execute();
		const said = neededMm3 === null ? 'nothing more' : `${neededMm3} mm³ a joint, ${why}`;
		await logAction(trx, actor, 'openingRules.set', `${side.name} ${side.side}, ${refDes} needs ${said}`);
		await announce(trx, 'boards');
		return { refDes };
	});
}

/** The foil that serves a side's openings and its needs, with the area of a step. */
export async function foilFor(boardSideId: number, wall: Wall, taperUm: number | null) {
	const [{ openings, side }, needs, model, factors] = await Promise.all([
		orderedOpenings(boardSideId),
		needsOf(boardSideId),
		currentModel(),
		factorsOn(wall, boardSideId)
	]);
	const names = openingNames(side.apertures);
	const needOf = new Map(needs.map((n) => [n.refDes, n.neededMm3]));
	const drawn = withNeeds(openings, (refDes) => needOf.get(refDes) ?? null).map((o) => ({ ...o, name: names[o.from]! }));
	const needy = asMade(drawn, { taperUm, factors });
	const choice = chooseFoil(needy, wall, model);
	return { choice, needs, area: choice.kind === 'step' ? stepArea(needy, choice.inStep, choice.stepUm) : null };
}
