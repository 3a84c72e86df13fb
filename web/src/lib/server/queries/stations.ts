import { db } from '../db/index.ts';

/** The stations of a line in order. */
export function stationsOf(lineId: number) {
	return db.selectFrom('station').selectAll().where('lineId', '=', lineId).orderBy('position').execute();
}
