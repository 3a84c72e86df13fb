import { startOfPlant } from '$lib/server/line/start.ts';

export async function load({ depends }) {
	depends('live:people', 'live:line', 'live:boards', 'live:runs', 'live:paste', 'live:machines');
	return { steps: await startOfPlant() };
}
