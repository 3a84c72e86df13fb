import type { StopReason } from '@keen-relay/core/schedule';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { ruleNow } from '../plant/rules.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { refuse } from '../answer.ts';

/** Says why a machine stood: a row of its own, so that a later word does not wipe out an earlier one. */
export async function explainStop(actor: Actor, stopId: number, reason: StopReason): Promise<{ actionId: number }> {
	const stop = await db
		.selectFrom('stop')
		.innerJoin('station', 'station.id', 'stop.stationId')
		.select('station.name')
		.where('stop.id', '=', stopId)
		.executeTakeFirst();
	if (!stop) return refuse('stop', stopId, 'There is no such stop.');
	const { reasons } = await ruleNow('stopReasons');
	const known = reasons.find((r) => r.code === reason && r.inUse);
	if (!known)
		return refuse('reason', reason, `The plant has no such reason. It has: ${reasons.flatMap((r) => (r.inUse ? r.code : [])).join(', ')}.`);
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { id } = await trx
			.insertInto('stopReason')
			.values({ stopId, reason, personId: actor.id, at })
			.returning('id')
			.executeTakeFirstOrThrow();
		const actionId = await logAction(trx, actor, 'stop.explain', `${stop.name}: ${known.words}`, { kind: 'stopReason', id });
		await announce(trx, 'shift');
		await announce(trx, 'line');
		return { actionId };
	});
}
