import { noRun, type LineContext, type StationRow, type StationSummary } from '../summary.ts';

/** The oven stands as the recipe that runs was judged when it was released. */
export async function ovenSummary(station: StationRow, { run, cycles }: LineContext): Promise<StationSummary> {
	if (!run) return noRun();
	const headwayS = cycles.get(station.name)?.plannedS ?? null;
	return {
		parts: [{ verdict: run.ovenVerdict, where: '', right: 'recipe.release' }],
		dues: [],
		figure: headwayS === null ? '–' : `${headwayS.toFixed(1)} s`,
		words: 'a panel'
	};
}
