import type { Trim } from '@keen-relay/core/placement';
import { db, type Db, type Trx } from '../db/index.ts';

export interface KeptTrim extends Trim {
	id: number;
	revision: number;
	/** What stood in the slot then; null: it is about no slot, or nobody knew. */
	feeder: string | null;
	/** What was measured, in the frame of the trim, µm. */
	wasDxUm: number;
	wasDyUm: number;
	placements: number;
	panels: number;
	afterOven: boolean;
	by: string;
	at: Date;
	expiresAt: Date;
	undoneAt: Date | null;
	/** The machine adds it now. */
	inUse: boolean;
	/** Why not: undone, expired, or another feeder stands in the slot. */
	why: 'undone' | 'expired' | 'feeder' | null;
}

/** Trims of a side on a placer, the latest first. */
export async function trimsOf(stationId: number, boardSideId: number, nowMs: number, trx: Db | Trx = db): Promise<KeptTrim[]> {
	const [rows, feeders] = await Promise.all([
		trx
			.selectFrom('trim')
			.innerJoin('user', 'user.id', 'trim.personId')
			.selectAll('trim')
			.select('user.name as by')
			.where('trim.stationId', '=', stationId)
			.where('trim.boardSideId', '=', boardSideId)
			.orderBy('trim.revision', 'desc')
			.execute(),
		trx.selectFrom('feeder').select(['code', 'slot']).where('stationId', '=', stationId).execute()
	]);
	const inSlot = new Map(feeders.map(({ code, slot }) => [String(slot), code]));
	return rows.map((row) => {
		const other = row.feeder !== null && inSlot.get(row.name) !== row.feeder;
		const why = row.undoneAt ? 'undone' : row.expiresAt.getTime() <= nowMs ? 'expired' : other ? 'feeder' : null;
		return {
			id: row.id,
			revision: row.revision,
			level: row.level,
			name: row.name,
			feeder: row.feeder,
			dxUm: row.dxUm,
			dyUm: row.dyUm,
			wasDxUm: row.wasDxUm,
			wasDyUm: row.wasDyUm,
			placements: row.placements,
			panels: row.panels,
			afterOven: row.afterOven,
			by: row.by,
			at: row.at,
			expiresAt: row.expiresAt,
			undoneAt: row.undoneAt,
			inUse: why === null,
			why
		};
	});
}

/** The records by which trims can be taken back. */
export async function trimActions(ids: readonly number[]): Promise<Record<number, number>> {
	if (ids.length === 0) return {};
	const rows = await db
		.selectFrom('actionLog')
		.select(['id', 'undo'])
		.where('action', '=', 'trim.accept')
		.where('undo', 'is not', null)
		.where('reverses', 'is', null)
		.orderBy('id', 'desc')
		.limit(400)
		.execute();
	return Object.fromEntries(rows.flatMap(({ id, undo }) => (undo?.kind === 'trim' && ids.includes(undo.id) ? [[undo.id, id]] : [])));
}
