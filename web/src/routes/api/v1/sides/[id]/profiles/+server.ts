import { z } from 'zod';
import { recipeBody } from '$lib/api/bodies.ts';
import { idOf, refuse } from '$lib/server/answer.ts';
import { keepProfile } from '$lib/server/stations/oven/profiles.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'profile.log',
	does: 'Takes a thermocouple log (CSV) of this side on a line.',
	contentType: 'multipart/form-data',
	status: 201,
	run: async ({ event, actor, id }) => {
		const data = await event.request.formData().catch(() => refuse('body', '', 'Send the log as a form (multipart/form-data).'));
		const log = data.get('log');
		if (!(log instanceof File) || log.name === '') return refuse('log', '', 'Choose the thermocouple log, a CSV file.');
		const given = data.get('recipe');
		const recipe = typeof given === 'string' && given ? recipeBody.parse(JSON.parse(given)) : null;
		const file = { name: log.name, bytes: new Uint8Array(await log.arrayBuffer()) };
		const decimal = z
			.enum(['.', ','])
			.nullable()
			.catch(null)
			.parse(data.get('decimal') || null);
		return keepProfile(actor, id, idOf(String(data.get('lineId') ?? '')), file, recipe, decimal);
	}
});
