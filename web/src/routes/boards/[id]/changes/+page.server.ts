import { error } from '@sveltejs/kit';
import { compareRevisions } from '@keen-relay/core/boards';
import { idOf } from '$lib/server/answer.ts';
import { otherRevisions, partsOfRevision } from '$lib/server/queries/board-revisions.ts';
import { boardSide } from '$lib/server/queries/sides.ts';

/** What has changed of a board since another of its revisions: ?since=, else the one it came from. */
export async function load({ params, url, depends }) {
	depends('live:boards');
	const side = await boardSide(idOf(params.id));
	if (!side) error(404, `There is no board side ${params.id}.`);
	const revisions = await otherRevisions(side.boardRevisionId);
	const asked = url.searchParams.get('since');
	const since = asked ? revisions.find((r) => r.id === idOf(asked)) : (revisions.find((r) => r.older) ?? revisions[0]);
	if (asked && !since) error(404, 'There is no such revision of this board.');
	const [now, was] = await Promise.all([partsOfRevision(side.boardRevisionId), since ? partsOfRevision(since.id) : []]);
	return {
		side: { id: side.id, side: side.side, widthMm: side.widthMm, heightMm: side.heightMm, name: side.name, revision: side.revision },
		revisions,
		since: since ?? null,
		compared: since ? compareRevisions(was, now) : null
	};
}
