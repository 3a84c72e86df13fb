import { boardList } from '$lib/server/db/boards.ts';

export async function load({ depends }) {
	depends('live:boards');
	return { boards: await boardList() };
}
