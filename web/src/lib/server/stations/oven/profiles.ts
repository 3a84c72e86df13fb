import { decodeText } from '@keen-relay/core/tables';
import { type OvenRecipe } from '@keen-relay/core/reflow';
import { Refusal, refuse } from '../../answer.ts';
import { released } from '../../queries/sides.ts';
import { announce, db } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import type { UploadedFile } from '@keen-relay/core/boards';
import { bounded } from '../../heavy/pool.ts';
import { strictText } from '../../files/strict-text.ts';

/** Keeps a thermocouple log of a side on a line, as it came and as it was read, with the recipe that the oven ran.
 * @param recipe null: the one that is released there now
 * @param decimal the decimal sign that a person chose, where the file can be read both ways
 */
export async function keepProfile(
	actor: Actor,
	sideId: number,
	lineId: number,
	file: UploadedFile,
	recipe: OvenRecipe | null,
	decimal: '.' | ',' | null = null
) {
	const decoded = decodeText(file.bytes, strictText);
	if (!('text' in decoded)) throw new Refusal([{ ...decoded, file: file.name }]);
	const { log, issues } = await bounded('file', 'profileLog', decoded.text, decimal);
	if (!log) throw new Refusal(issues.map((issue) => ({ ...issue, file: file.name })));
	const ran = recipe ?? (await released(sideId, lineId)).recipe?.recipe;
	if (!ran) return refuse('recipe', sideId, 'No recipe is released for this board on this line: say what the oven was set to.');
	const createdAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { id } = await trx
			.insertInto('profileLog')
			.values({
				boardSideId: sideId,
				lineId,
				name: file.name,
				recipe: JSON.stringify(ran),
				log: JSON.stringify(log),
				content: Buffer.from(file.bytes),
				createdBy: actor.id,
				createdAt
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, actor, 'profile.log', `${file.name}, ${log.channels.length} thermocouples`, null, lineId);
		await announce(trx, 'boards');
		return { id, issues };
	});
}

/** Profiles of a side on a line, the newest first. */
export function profilesOf(sideId: number, lineId: number) {
	return db
		.selectFrom('profileLog')
		.innerJoin('user', 'user.id', 'profileLog.createdBy')
		.select(['profileLog.id', 'profileLog.name', 'profileLog.recipe', 'profileLog.log', 'profileLog.createdAt', 'user.name as by'])
		.where('boardSideId', '=', sideId)
		.where('lineId', '=', lineId)
		.orderBy('profileLog.id', 'desc')
		.limit(10)
		.execute();
}
