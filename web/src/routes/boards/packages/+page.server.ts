import { packageList } from '$lib/server/boards/packages.ts';

export async function load({ depends }) {
	depends('live:boards');
	return { packages: await packageList() };
}
