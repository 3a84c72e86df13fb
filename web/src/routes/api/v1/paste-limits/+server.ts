import type { LimitSet } from '@keen-relay/core/inspection';
import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { announce, db } from '$lib/server/db/index.ts';
import { keepLimits, wideningOf } from '$lib/server/stations/paste-check/limits.ts';
import { authorize } from '$lib/server/people/access.ts';
import { logAction } from '$lib/server/plant/log.ts';

/** Keeps a new revision of the paste limits; one that lets through what the present ones stop needs a second person. */
export async function PUT(event) {
	return answer(async () => {
		const first = await authorize(event, 'limits.set');
		const { limits, note, startedFrom } = await readJson(event, bodies.pasteLimits);
		const wider = await wideningOf(limits as LimitSet);
		const action = wider.length ? 'limits.widen' : 'limits.set';
		const actor = action === 'limits.set' ? first : await authorize(event, action);
		return db.transaction().execute(async (trx) => {
			const revision = await keepLimits(trx, limits as LimitSet, note, actor.id, actor.approvedBy, startedFrom);
			await logAction(trx, actor, action, `revision ${revision}${wider.length ? `, wider: ${wider.join(', ')}` : ''}`);
			await announce(trx, 'results');
			return { revision, wider };
		});
	});
}
