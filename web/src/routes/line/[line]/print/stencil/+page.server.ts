import { stationPage } from '$lib/server/line/station-page.ts';
import { currentFactors, currentModel } from '$lib/server/queries/transfer.ts';

export async function load({ params, url, depends }) {
	depends('live:boards');
	const { side, sides, station, ready, lineId } = await stationPage(params.line, 'print', url);
	const [model, factors] = await Promise.all([currentModel(), currentFactors(ready.recipe?.pasteId ?? null)]);
	return { side, sides, station, lineId, stencil: ready.stencil, model, factors };
}
