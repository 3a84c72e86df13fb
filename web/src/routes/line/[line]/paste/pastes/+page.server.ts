import { PASTE_RULES } from '@keen-relay/core/paste';
import { idOf } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';

export async function load({ params, depends }) {
	depends('live:paste');
	const pastes = await db.selectFrom('paste').selectAll().orderBy('name').execute();
	return { lineId: idOf(params.line), common: PASTE_RULES, pastes: pastes.map(({ window: _, ...paste }) => paste) };
}
