import { error } from '@sveltejs/kit';
import { idOf } from '$lib/server/answer.ts';
import { boardSide, filesOf } from '$lib/server/db/boards.ts';
import { db } from '$lib/server/db/index.ts';

export async function load({ params, depends }) {
	depends('live:boards');
	const id = idOf(params.id);
	const row = await boardSide(id);
	if (!row) error(404, `There is no board side ${id}.`);
	const { apertures, parts, bom, ...side } = row;
	const built = await db.selectFrom('run').select('id').where('boardSideId', '=', id).executeTakeFirst();
	return {
		side,
		openings: apertures.length,
		parts: parts.length,
		bomLines: bom.length,
		files: await filesOf(id),
		built: built !== undefined
	};
}
