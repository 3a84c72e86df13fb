import { idOf, missing } from '$lib/server/answer.ts';
import { hoursNow } from '$lib/server/line/hours.ts';
import { lineNow } from '$lib/server/line/memory.ts';

export async function load({ params, depends }) {
	depends('live:line', 'live:results');
	const line = await lineNow(idOf(params.line));
	if (!line) missing('There is no such line.', '/plant/set-up/lines', 'Lines and machines');
	return { hours: await hoursNow(line) };
}
