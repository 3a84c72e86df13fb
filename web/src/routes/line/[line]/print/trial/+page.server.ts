import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { START_RANGES, trialOf } from '$lib/server/stations/print/trials.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station } = await stationPage(params.line, 'print', url);
	const recipe = run
		? await db
				.selectFrom('run')
				.innerJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
				.select('printRecipe.recipe')
				.where('run.id', '=', run.id)
				.executeTakeFirst()
		: undefined;
	return {
		station,
		runId: run?.id ?? null,
		job: run?.number ?? null,
		recipe: recipe?.recipe ?? null,
		start: START_RANGES,
		trial: run ? await trialOf(run.id) : null
	};
}
