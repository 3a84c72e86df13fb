import { linesNow } from '$lib/server/line/memory.ts';

export async function load({ depends }) {
	depends('live:line', 'live:results', 'live:runs', 'live:paste');
	return { all: await linesNow() };
}
