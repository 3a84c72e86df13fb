import { stationNames } from '$lib/server/ingest/quarantine.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { reportForms } from '$lib/server/stations/forms.ts';

/** What a machine's program sends first, exactly, for one station. */
export async function load({ depends, url }) {
	depends('live:line');
	const [stations, nowMs] = await Promise.all([stationNames(), plantNow()]);
	const station = stations.find((s) => s.id === Number(url.searchParams.get('station'))) ?? stations[0] ?? null;
	return {
		stations,
		station,
		origin: url.origin,
		at: new Date(nowMs).toISOString(),
		bootId: crypto.randomUUID(),
		says: station ? reportForms(station.role).map(({ type, words }) => ({ type, words })) : []
	};
}
