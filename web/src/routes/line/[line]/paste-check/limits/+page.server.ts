import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { currentLimits, limitRevisions } from '$lib/server/paste-check/limits.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { station } = await stationPage(params.line, 'pasteCheck', url);
	const [current, revisions] = await Promise.all([currentLimits(db), limitRevisions()]);
	return { station, ...current, revisions };
}
