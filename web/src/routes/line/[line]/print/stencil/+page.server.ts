import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends }) {
	depends('live:boards');
	const { side, sides, station, ready, lineId } = await stationPage(params.line, 'print', url);
	return { side, sides, station, lineId, stencil: ready.stencil };
}
