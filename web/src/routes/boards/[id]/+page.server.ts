import { error } from '@sveltejs/kit';
import { idOf } from '$lib/server/answer.ts';
import { differencesNow } from '$lib/server/boards/differences.ts';
import { otherRevisions } from '$lib/server/queries/board-revisions.ts';
import { boardSide, filesOf } from '$lib/server/queries/sides.ts';
import { db } from '$lib/server/db/index.ts';

export async function load({ params, depends }) {
	depends('live:boards');
	const id = idOf(params.id);
	const row = await boardSide(id);
	if (!row) error(404, `There is no board side ${id}.`);
	const { apertures, parts, bom, ...side } = row;
	const built = await db
		.selectFrom('run')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.select('run.id')
		.where('boardSide.boardRevisionId', '=', row.boardRevisionId)
		.executeTakeFirst();
	const otherSide = await db
		.selectFrom('boardSide')
		.select('id')
		.where('boardRevisionId', '=', row.boardRevisionId)
		.where('id', '!=', id)
		.executeTakeFirst();
	return {
		side,
		otherSideId: otherSide?.id ?? null,
		pins: apertures.filter((a) => a.pin !== null).length,
		openings: apertures.length,
		parts: parts.length,
		bomLines: bom.length,
		files: await filesOf(id),
		built: built !== undefined,
		differences: await differencesNow(id),
		revisions: await otherRevisions(row.boardRevisionId)
	};
}
