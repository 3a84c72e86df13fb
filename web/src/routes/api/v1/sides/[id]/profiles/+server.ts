import { recipeBody } from '$lib/api/bodies.ts';
import { answer, idOf, refuse } from '$lib/server/answer.ts';
import { keepProfile } from '$lib/server/stations/oven/profiles.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Takes a thermocouple log (CSV) of this side on a line; `recipe` is what the oven ran, where it is not the released one. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'profile.log');
		const data = await event.request.formData().catch(() => refuse('body', '', 'Send the log as a form (multipart/form-data).'));
		const log = data.get('log');
		if (!(log instanceof File) || log.name === '') return refuse('log', '', 'Choose the thermocouple log, a CSV file.');
		const given = data.get('recipe');
		const recipe = typeof given === 'string' && given ? recipeBody.parse(JSON.parse(given)) : null;
		const file = { name: log.name, bytes: new Uint8Array(await log.arrayBuffer()) };
		return keepProfile(actor, idOf(event.params.id), idOf(String(data.get('lineId') ?? '')), file, recipe);
	}, 201);
}
