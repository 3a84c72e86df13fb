import { redirect } from '@sveltejs/kit';
import { inspectionPage } from '$lib/server/line/inspection-page.ts';
import { stationsOf } from '$lib/server/queries/stations.ts';
import { idOf } from '$lib/server/answer.ts';

/** A line may look before and after the oven; without a station named it is the last one. */
export async function load({ params, url, depends }) {
	depends('live:results', 'live:line');
	if (!params.station) {
		const last = (await stationsOf(idOf(params.line))).findLast((station) => station.role === 'optical');
		if (last) redirect(307, `/line/${params.line}/optical/${last.id}${url.search}`);
	}
	return inspectionPage(params.line, 'optical', url, params.station);
}
