import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends }) {
	depends('live:line');
	const { station } = await stationPage(params.line, 'optical', url, params.station);
	return { station: { id: station.id, name: station.name } };
}
