import { feedersNow } from '$lib/server/queries/reels.ts';

/** Feeders with what is in them and where they stand. */
export async function load({ depends }) {
	depends('live:parts');
	return { feeders: await feedersNow() };
}
