import { shiftFacts } from '$lib/server/shift/shift-facts.ts';
import { shiftPage } from '$lib/server/shift/shift-page.ts';

export async function load({ url, depends, parent }) {
	depends('live:shift', 'live:boards', 'live:runs');
	const { line, shift } = await shiftPage(url, (await parent()).line);
	return { shift, changes: (await shiftFacts(line.id, shift)).changes };
}
