import {
	applyRules,
	DEFAULT_TRANSFER,
	shapeFactors,
	STENCIL_RULES,
	wallModel,
	type ShapeFactor,
	type StencilRules,
	type TransferModel,
	type Wall
} from '@keen-relay/core/stencil';
import { refuse } from '../answer.ts';
import { boardSide } from './sides.ts';
import { db, type Db, type Trx } from '../db/index.ts';

/** Rules by class that hold now; the values to start from where nobody has set any. */
export async function currentRules(trx: Db | Trx = db): Promise<{ revision: number | null; rules: StencilRules }> {
	const row = await trx.selectFrom('openingRules').select(['revision', 'rules']).orderBy('revision', 'desc').executeTakeFirst();
	return row ?? { revision: null, rules: STENCIL_RULES };
}

/** The plant's transfer curve: its own fit, or the model's values to start from. */
export async function currentModel(trx: Db | Trx = db): Promise<TransferModel> {
	const row = await trx.selectFrom('transferFit').select('model').orderBy('revision', 'desc').executeTakeFirst();
	return row?.model ?? DEFAULT_TRANSFER;
}

/** The openings of a side as they are ordered: under the rules of the plant. */
export async function orderedOpenings(sideId: number) {
	const side = (await boardSide(sideId)) ?? refuse('side', sideId, 'There is no such board side.');
	const { revision, rules } = await currentRules();
	return { side, revision, openings: applyRules(side.apertures, rules) };
}

/** Each shape's own factor with one paste, by wall, from the runs that a curve was fitted to. */
export async function currentFactors(pasteId: number | null, trx: Db | Trx = db): Promise<Partial<Record<Wall, ShapeFactor[]>>> {
	const [model, rows] = await Promise.all([
		currentModel(trx),
		trx
			.selectFrom('transferFit')
			// The same pads fitted again say nothing more: a side's latest fit on a wall speaks for it.
			.distinctOn(['wall', 'boardSideId'])
			.select(['wall', 'groups'])
			.where('wall', 'is not', null)
			.where('pasteId', 'is not distinct from', pasteId)
			.orderBy('wall')
			.orderBy('boardSideId')
			.orderBy('revision', 'desc')
			.execute()
	]);
	const walls = [...new Set(rows.map((r) => r.wall!))];
	return Object.fromEntries(
		walls.map((wall) => [
			wall,
			shapeFactors(
				rows.flatMap((r) => (r.wall === wall ? r.groups : [])),
				wallModel(wall, model)
			)
		])
	);
}

/** The shapes' factors on a wall with the paste that a side is soldered with, by its latest released recipe. */
export async function factorsOn(wall: Wall, boardSideId: number): Promise<ShapeFactor[]> {
	const recipe = await db
		.selectFrom('ovenRecipe')
		.select('pasteId')
		.where('boardSideId', '=', boardSideId)
		.where('status', '=', 'released')
		.orderBy('id', 'desc')
		.executeTakeFirst();
	return (await currentFactors(recipe?.pasteId ?? null))[wall] ?? [];
}
