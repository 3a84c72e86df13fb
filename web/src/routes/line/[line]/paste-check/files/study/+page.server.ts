import { stationPage } from '$lib/server/line/station-page.ts';
import { currentModel } from '$lib/server/queries/transfer.ts';

export async function load({ params, url, depends }) {
	depends('live:runs');
	const { station, lineId, run } = await stationPage(params.line, 'pasteCheck', url);
	return { station, lineId, model: await currentModel(), run: run && { id: run.id, number: run.number } };
}
