import { ruleNow } from '$lib/server/plant/rules.ts';
import { feedersNow } from '$lib/server/queries/reels.ts';
import { nozzlesNow } from '$lib/server/queries/nozzles.ts';

/** Feeders with what is in them and where they stand; nozzles by their machines; how much each has picked. */
export async function load({ depends, url }) {
	depends('live:parts', 'live:results');
	const [feeders, nozzles, care] = await Promise.all([feedersNow(), nozzlesNow(), ruleNow('care')]);
	return { feeders, nozzles, care, asked: url.searchParams.get('feeder') };
}
