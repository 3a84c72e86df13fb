import { weakPin } from '@keen-relay/core/people';
import { bodies } from '$lib/api/bodies.ts';
import { refuse } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { personByPin, sessionToken, setPin } from '$lib/server/people/auth.ts';
import { askingAt } from '$lib/server/people/guesses.ts';
import { logAction } from '$lib/server/plant/log.ts';
import { ruleNow } from '$lib/server/plant/rules.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'person',
	does: 'Changes one’s own PIN; every other sign-in of the same person ends.',
	body: bodies.ownPin,
	example: { pin: '2001', newPin: '730914' },
	run: async ({ event, actor: { id, name, badge, role }, body: { pin, newPin } }) => {
		const person = await personByPin(askingAt(event, badge, 'PIN'), pin);
		if (person?.id !== id) return refuse('pin', '', 'This is not your PIN.');
		const weak = weakPin(newPin, badge, role, await ruleNow('pins'));
		if (weak) refuse('newPin', '', weak);
		const token = await sessionToken(event.request.headers);
		await db.transaction().execute(async (trx) => {
			await setPin(trx, id, newPin, token);
			const actor = { id, name, role, approvedBy: id, stationPc: event.locals.stationPc?.name ?? null };
			await logAction(trx, actor, 'person.change', `${name} changed their own PIN`);
		});
	}
});
