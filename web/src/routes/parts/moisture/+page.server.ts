import { bakeHours, THICKEST_BODY_MM } from '@keen-relay/core/parts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { reelsNow } from '$lib/server/queries/reels.ts';

/** Every reel that has to be kept dry, the one that ends first at the top. */
export async function load({ depends }) {
	depends('live:parts');
	const reels = (await reelsNow(await plantNow())).filter((r) => r.status.dry !== null && !r.status.gone);
	const left = (r: (typeof reels)[number]) => r.status.life?.leftH ?? Infinity;
	return {
		reels: reels
			.map((r) => ({
				...r,
				// By the thickest body that the table has: nobody said how thick it is.
				bakeH: r.status.life?.expired ? bakeHours(r.moistureLevel!, THICKEST_BODY_MM, r.status.life.usedH) : null
			}))
			.sort((a, b) => left(a) - left(b))
	};
}
