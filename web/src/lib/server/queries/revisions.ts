import { sql } from 'kysely';
import { refuse } from '../answer.ts';
import { boardSide } from './sides.ts';
import { announce, db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { refuseStale } from './started-from.ts';

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

const WORDS: Record<RevisedTable | 'printRecipe', string> = {
	stencil: 'The stencil',
	placementProgram: 'The placement program',
	ovenRecipe: 'The oven recipe',
	printRecipe: 'The print recipe'
};

/** Whoever releases something for a side waits for the one before. */
export async function lockSide(trx: Trx, sideId: number): Promise<void> {
	await trx.selectFrom('boardSide').select('id').where('id', '=', sideId).forUpdate().execute();
}

/** What is released for a side, on a line where it belongs to one, and by whom. */
export async function releasedNow(trx: Trx, table: RevisedTable | 'printRecipe', sideId: number, lineId: number | null) {
	return trx
		.selectFrom(table as 'printRecipe')
		.innerJoin('user', 'user.id', `${table as 'printRecipe'}.createdBy`)
		.select(['revision', 'createdAt as at', 'user.name as by'])
		.where('boardSideId', '=', sideId)
		.where('status', '=', 'released')
		.$if(lineId !== null, (q) => q.where('lineId', '=', lineId!))
		.executeTakeFirst();
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
	row: object,
	startedFrom: number | null
): Promise<{ id: number; revision: number; actionId: number }> {
	const createdAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await lockSide(trx, sideId);
		refuseStale(startedFrom, await releasedNow(trx, table, sideId, lineId), WORDS[table]);
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
