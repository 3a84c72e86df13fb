import { boardList } from '$lib/server/queries/sides.ts';

export async function load({ depends }) {
	depends('live:boards');
	return { boards: await boardList() };
}
