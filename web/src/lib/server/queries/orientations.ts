import type { Quadrant } from '@keen-relay/core/feeders';
import { db, type Db, type Trx } from '../db/index.ts';

export type Orientations = ReadonlyMap<string, Quadrant>;

/** In which quadrant pin 1 of a part has to lie in its tape, for the parts of which somebody has said it. */
export async function orientations(trx: Db | Trx = db): Promise<Orientations> {
	const rows = await trx.selectFrom('partOrientation').select(['partNumber', 'quadrant']).execute();
	return new Map(rows.map(({ partNumber, quadrant }) => [partNumber, quadrant as Quadrant]));
}
