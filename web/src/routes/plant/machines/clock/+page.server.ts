import { streamStats } from '$lib/server/plant/stream.ts';

export async function load({ depends }) {
	depends('live:machines');
	return { stream: streamStats() };
}
