import { error } from '@sveltejs/kit';
import { compareRevisions } from '@keen-relay/core/boards';
import { idOf } from '$lib/server/answer.ts';
import { newestRevised, otherRevisions, partsOfRevision } from '$lib/server/queries/board-revisions.ts';
import { boardSide, sideNames } from '$lib/server/queries/sides.ts';

/** What has changed of a board since another of its revisions: ?since=, else the one it came from. */
export async function load({ url, depends }) {
	depends('live:boards');
	const sides = (await sideNames()).map(({ sideId, name, revision, side }) => ({ sideId, label: `${name} ${revision}, ${side}` }));
	const wanted = url.searchParams.get('side');
	const sideId = wanted ? idOf(wanted) : ((await newestRevised()) ?? sides[0]?.sideId);
	if (sideId === undefined) return { sides, side: null, revisions: [], since: null, compared: null };
	const side = await boardSide(sideId);
	if (!side) error(404, `There is no board side ${sideId}.`);
	const revisions = await otherRevisions(side.boardRevisionId);
	const asked = Number(url.searchParams.get('since'));
	const since = revisions.find((r) => r.id === asked) ?? revisions.find((r) => r.older) ?? revisions[0];
	const [now, was] = await Promise.all([partsOfRevision(side.boardRevisionId), since ? partsOfRevision(since.id) : []]);
	return {
		sides,
		side: { id: side.id, side: side.side, widthMm: side.widthMm, heightMm: side.heightMm, name: side.name, revision: side.revision },
		revisions,
		since: since ?? null,
		compared: since ? compareRevisions(was, now) : null
	};
}
