import { announce, db } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';

/** Says in which quadrant pin 1 of a part has to lie in its tape; null: it is not compared any more. */
export function setOrientation(actor: Actor, partNumber: string, quadrant: number | null): Promise<{ quadrant: number | null }> {
	return db.transaction().execute(async (trx) => {
		if (quadrant === null) await trx.deleteFrom('partOrientation').where('partNumber', '=', partNumber).execute();
		else {
			const now = { quadrant, setAt: new Date(await plantNow()), setBy: actor.id };
			await trx
				.insertInto('partOrientation')
				.values({ partNumber, ...now })
				.onConflict((conflict) => conflict.column('partNumber').doUpdateSet(now))
				.execute();
		}
		const words = quadrant === null ? 'how pin 1 lies is not compared' : `pin 1 lies in quadrant ${quadrant} of its tape`;
		await logAction(trx, actor, 'package.set', `${partNumber}: ${words}`);
		for (const topic of ['parts', 'line'] as const) await announce(trx, topic);
		return { quadrant };
	});
}
