import { runsForJudging } from '$lib/server/queries/runs.ts';
import { SIGNATURE_THRESHOLDS } from '@keen-relay/core/inspection';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { currentGolden, currentThresholds, thresholdRevisions } from '$lib/server/stations/paste-check/thresholds.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station } = await stationPage(params.line, 'pasteCheck', url);
	const of = run
		? await runsForJudging(db).innerJoin('job', 'job.id', 'run.jobId').select('job.number').where('run.id', '=', run.id).executeTakeFirst()
		: undefined;
	const [current, revisions, golden] = await Promise.all([
		currentThresholds(),
		thresholdRevisions(),
		of ? currentGolden(of.boardSideId, of.foilUm) : null
	]);
	return {
		station,
		...current,
		revisions,
		start: SIGNATURE_THRESHOLDS,
		run: of ? { id: of.id, number: of.number, sideId: of.boardSideId } : null,
		golden: golden && { panels: golden.panels, by: golden.by, at: golden.createdAt, foilUm: golden.foilUm }
	};
}
