import { error } from '@sveltejs/kit';
import { idOf } from '$lib/server/answer.ts';
import { hoursNow } from '$lib/server/line/hours.ts';
import { lineNow } from '$lib/server/line/memory.ts';

export async function load({ params, depends }) {
	depends('live:line', 'live:results');
	const line = await lineNow(idOf(params.line));
	if (!line) error(404, 'There is no such line.');
	return { hours: await hoursNow(line) };
}
