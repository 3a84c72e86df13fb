import { classSpreads } from '@keen-relay/core/inspection';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { currentLimits, limitRevisions } from '$lib/server/stations/paste-check/limits.ts';
import { oncePerPanel, passedRun } from '$lib/server/queries/readings.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { station, run } = await stationPage(params.line, 'pasteCheck', url);
	const [current, revisions, passed] = await Promise.all([
		currentLimits(db),
		limitRevisions(),
		run ? oncePerPanel(run.id, 'spreads', '', () => passedRun(run.id).then((of) => (of ? classSpreads(of) : []))) : []
	]);
	return { station, ...current, revisions, run: run && run.number, spreads: passed };
}
