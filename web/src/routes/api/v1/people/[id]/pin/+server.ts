import { weakPin, type Role } from '@keen-relay/core/people';
import { bodies } from '$lib/api/bodies.ts';
import { refuse } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { setPin } from '$lib/server/people/auth.ts';
import { logAction } from '$lib/server/plant/log.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'person.create',
	does: 'Gives a person another PIN, who is signed out wherever they are signed in.',
	body: bodies.newPin,
	example: { newPin: '730914' },
	run: async ({ actor, body: { newPin }, part }) => {
		const person = await db.selectFrom('user').select(['id', 'name', 'username', 'role']).where('id', '=', part('id')).executeTakeFirst();
		if (!person) return refuse('person', part('id'), 'There is no such person.');
		const weak = weakPin(newPin, person.username ?? '', person.role as Role);
		if (weak) refuse('newPin', '', weak);
		await db.transaction().execute(async (trx) => {
			await setPin(trx, person.id, newPin, null);
			await logAction(trx, actor, 'person.create', `another PIN for ${person.name}`);
		});
	}
});
