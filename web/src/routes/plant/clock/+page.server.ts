import { streamStats } from '$lib/server/line/live.ts';

export async function load({ depends }) {
	depends('live:machines');
	return { stream: streamStats() };
}
