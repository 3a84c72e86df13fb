import { bodies } from '$lib/api/bodies.ts';
import { db } from '$lib/server/db/index.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'person',
	does: 'Sets how one reads figures: decimal sign and dates, metric or customary units; null is as the plant has it. What is stored stays metric.',
	body: bodies.preferences,
	example: { locale: 'de-DE', units: null },
	run: async ({ actor, body: { locale, units } }) => {
		await db.updateTable('user').set({ locale, units }).where('id', '=', actor.id).execute();
	}
});
