import type { OtherLayer } from '@keen-relay/core/boards';
import { db } from '../db/index.ts';
import { bounded } from '../heavy/pool.ts';

/** The layers that were kept beside a side's paste, in the frame of its openings. */
export async function otherLayers(sideId: number): Promise<OtherLayer[]> {
	const side = await db.selectFrom('boardSide').select(['side', 'widthMm']).where('id', '=', sideId).executeTakeFirst();
	if (!side) return [];
	const files = await db
		.selectFrom('boardFile')
		.select(['kind', 'name', 'content'])
		.where('boardSideId', '=', sideId)
		.where('kind', 'in', ['layer', 'outline'])
		.orderBy('id')
		.execute();
	return bounded('layers', 'drawnLayers', files, side.side, side.widthMm);
}
