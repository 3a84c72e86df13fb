import { db } from '../../db/index.ts';
import { lineOf } from '../../queries/bead.ts';
import type { StoryPart } from '../story.ts';

/** What lay on the stencil when a panel was printed: every jar that it can hold paste of. */
export async function pasteStory({ id, lineId }: { id: number; lineId: number }): Promise<StoryPart> {
	const pass = await db.selectFrom('panelPass').select('printedAt').where('id', '=', id).executeTakeFirstOrThrow();
	const { portions } = await lineOf(lineId, pass.printedAt.getTime());
	return {
		lines: [],
		bead: portions.filter((p) => p.grams > 0.1).map(({ jar, lot, loadedMs, grams }) => ({ jar, lot, loadedMs, grams }))
	};
}
