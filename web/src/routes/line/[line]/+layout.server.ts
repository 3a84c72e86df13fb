import { idOf, missing } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';

/** Pages of a line are of that line, or of none. */
export async function load({ params, depends }) {
	depends('live:line');
	const id = idOf(params.line);
	const line = await db.selectFrom('line').select(['name', 'outOfUseAt']).where('id', '=', id).executeTakeFirst();
	if (!line) missing(`There is no line ${id}.`, '/plant/set-up/lines', 'Lines and machines');
	if (line.outOfUseAt) missing(`${line.name} is out of use.`, `/plant/set-up/lines?line=${id}`, 'Lines and machines');
}
