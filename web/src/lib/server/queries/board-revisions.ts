import { sql } from 'kysely';
import type { RevisedPart } from '@keen-relay/core/boards';
import { db } from '../db/index.ts';
import { boardSide } from './sides.ts';

/** Other revisions of the same customer's board, the newest first; the newest that is older than it, if any, is what it came from. */
export async function otherRevisions(revisionId: number) {
	const rows = await db
		.selectFrom('boardRevision as of')
		.innerJoin('boardRevision as other', (join) =>
			join
				.onRef('other.id', '!=', 'of.id')
				.on(sql<boolean>`lower(other.name) = lower("of".name) and lower(other.customer) = lower("of".customer)`)
		)
		.select(['other.id', 'other.revision', 'other.createdAt', 'of.createdAt as since'])
		.where('of.id', '=', revisionId)
		.orderBy('other.createdAt', 'desc')
		.orderBy('other.id', 'desc')
		.execute();
	return rows.map(({ since, ...other }) => ({ ...other, older: other.createdAt < since }));
}

/** Every part of a revision, both sides. */
export async function partsOfRevision(revisionId: number): Promise<RevisedPart[]> {
	const sides = await db.selectFrom('boardSide').select('id').where('boardRevisionId', '=', revisionId).execute();
	const whole = await Promise.all(sides.map(({ id }) => boardSide(id)));
	return whole.flatMap((side) => (side ? side.parts.map((part): RevisedPart => ({ ...part, side: side.side })) : []));
}

/** A side of the newest revision that came from an older one; null: no board has two. */
export async function newestRevised(): Promise<number | null> {
	const row = await sql<{ id: number }>`
		select s.id from board_side s join board_revision r on r.id = s.board_revision_id
		where exists (select 1 from board_revision o where lower(o.name) = lower(r.name) and lower(o.customer) = lower(r.customer)
			and o.created_at < r.created_at)
		order by r.created_at desc, s.id limit 1`.execute(db);
	return row.rows[0]?.id ?? null;
}
