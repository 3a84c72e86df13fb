import { ruleNow } from '$lib/server/plant/rules.ts';
import { feedersNow } from '$lib/server/queries/reels.ts';
import { faultsSinceCare, wearEvents } from '$lib/server/stations/place/wear-events.ts';
import { nozzlesNow } from '$lib/server/queries/nozzles.ts';

/** Feeders with what is in them and where they stand; nozzles by their machines; how much each has picked. */
export async function load({ depends, url }) {
	depends('live:parts', 'live:results');
	const [feeders, nozzles, care] = await Promise.all([feedersNow(), nozzlesNow(), ruleNow('care')]);
	const codes = { feeders: feeders.map((f) => f.code) };
	const [faults, events] = await Promise.all([faultsSinceCare(codes), wearEvents(codes)]);
	return {
		feeders: feeders.map((f) => ({ ...f, faults: faults.get(f.code) ?? 0 })),
		events,
		nozzles,
		care,
		asked: url.searchParams.get('feeder')
	};
}
