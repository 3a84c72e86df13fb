import { inspectionPage } from '$lib/server/line/inspection-page.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	return inspectionPage(params.line, 'bench', url, params.station);
}
