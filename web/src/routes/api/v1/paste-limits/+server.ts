import type { LimitSet } from '@keen-relay/core/inspection';
import { DEPOSIT_LIMITS } from '@keen-relay/core/inspection';
import { bodies } from '$lib/api/bodies.ts';
import { announce, db } from '$lib/server/db/index.ts';
import { keepLimits, wideningOf } from '$lib/server/stations/paste-check/limits.ts';
import { logAction } from '$lib/server/plant/log.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'limits.set',
	also: ['limits.widen'],
	does: 'Keeps a new revision of the paste limits; widening asks for limits.widen, a second person.',
	body: bodies.pasteLimits,
	example: { limits: DEPOSIT_LIMITS, note: 'as common practice' },
	run: async ({ actor: first, body: { limits, note, startedFrom }, asking }) => {
		const wider = await wideningOf(limits as LimitSet);
		const action = wider.length ? 'limits.widen' : 'limits.set';
		const actor = action === 'limits.set' ? first : await asking(action);
		return db.transaction().execute(async (trx) => {
			const revision = await keepLimits(trx, limits as LimitSet, note, actor.id, actor.approvedBy, startedFrom);
			await logAction(trx, actor, action, `revision ${revision}${wider.length ? `, wider: ${wider.join(', ')}` : ''}`);
			await announce(trx, 'results');
			return { revision, wider };
		});
	}
});
