import { error } from '@sveltejs/kit';
import { idOf } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';

/** A new board, or the other side of the revision ?of=. */
export async function load({ url }) {
	const wanted = url.searchParams.get('of');
	if (!wanted) return { of: null, side: 'top' as const };
	const of = await db
		.selectFrom('boardRevision')
		.innerJoin('boardSide', 'boardSide.boardRevisionId', 'boardRevision.id')
		.select(['boardRevision.id', 'boardRevision.name', 'boardRevision.revision', 'boardSide.side'])
		.where('boardRevision.id', '=', idOf(wanted))
		.execute();
	const first = of[0];
	if (!first || of.length > 1) error(404, first ? 'This revision has both sides already.' : 'There is no such board revision.');
	return { of: first, side: first.side === 'top' ? ('bottom' as const) : ('top' as const) };
}
