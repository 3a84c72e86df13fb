import { refuse } from '../../answer.ts';
import { announce, db } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';

/** Somebody says how many panels the loader of a line holds now, or how many its unloader takes from here. */
export function setMagazine(
	actor: Actor,
	lineId: number,
	{ end, panels }: { end: 'loader' | 'unloader'; panels: number }
): Promise<{ panels: number }> {
	return db.transaction().execute(async (trx) => {
		const line = await trx.selectFrom('line').select('name').where('id', '=', lineId).executeTakeFirst();
		if (!line) return refuse('line', lineId, 'There is no such line.');
		await trx
			.insertInto('magazine')
			.values({ lineId, end, panels, setAt: new Date(await plantNow()), setBy: actor.id })
			.execute();
		const said = end === 'loader' ? `its loader holds ${panels} panels` : `its unloader has room for ${panels} panels`;
		await logAction(trx, actor, 'feeder.load', `${line.name}: ${said}`);
		await announce(trx, 'line');
		return { panels };
	});
}
