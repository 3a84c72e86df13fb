import { inspectionPage } from '$lib/server/line/inspection-page.ts';

export async function load({ params, url, depends }) {
	depends('live:results', 'live:line');
	return inspectionPage(params.line, 'optical', url);
}
