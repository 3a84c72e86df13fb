import { sql } from 'kysely';
import { refuse } from '../answer.ts';
import { boardSide } from './sides.ts';
import { announce, db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';

type RevisedTable = 'stencil' | 'placementProgram' | 'ovenRecipe';

/** The next revision, and everything released before is retired: a released row is never changed.
 * @returns its number, and the row that was released until now
 */
async function nextRevision(
	trx: Trx,
	table: RevisedTable,
	sideId: number,
	lineId: number | null
): Promise<{ revision: number; previousId: number | null }> {
	const name = { stencil: 'stencil', placementProgram: 'placement_program', ovenRecipe: 'oven_recipe' }[table];
	const onLine = lineId === null ? sql`` : sql`and line_id = ${lineId}`;
	const retired = await sql<{
		id: number;
	}>`update ${sql.table(name)} set status = 'retired' where board_side_id = ${sideId} ${onLine} and status = 'released' returning id`.execute(
		trx
	);
	const last = await sql<{
		n: number;
	}>`select coalesce(max(revision), 0) as n from ${sql.table(name)} where board_side_id = ${sideId} ${onLine}`.execute(trx);
	return { revision: (last.rows[0]?.n ?? 0) + 1, previousId: retired.rows[0]?.id ?? null };
}

export async function sideOrRefuse(sideId: number) {
	return (await boardSide(sideId)) ?? refuse('side', sideId, 'There is no such board side.');
}

export async function release<T extends RevisedTable>(
	actor: Actor,
	table: T,
	sideId: number,
	lineId: number | null,
	action: 'stencil.release' | 'program.release' | 'recipe.release',
	say: (revision: number) => string,
	row: object
): Promise<{ id: number; revision: number; actionId: number }> {
	const createdAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { revision, previousId } = await nextRevision(trx, table, sideId, lineId);
		const values = {
			boardSideId: sideId,
			...(lineId === null ? {} : { lineId }),
			...row,
			revision,
			status: 'released',
			createdBy: actor.id,
			createdAt
		};
		const { id } = await trx
			.insertInto(table as 'stencil')
			.values(values as never)
			.returning('id')
			.executeTakeFirstOrThrow();
		const actionId = await logAction(trx, actor, action, say(revision), { kind: 'release', table, id, previousId }, lineId);
		await announce(trx, 'boards');
		return { id, revision, actionId };
	});
}
