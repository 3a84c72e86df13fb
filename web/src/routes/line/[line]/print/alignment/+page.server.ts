import { offsetCorrection } from '@keen-relay/core/control';
import { mean } from '@keen-relay/core/numerics';
import { rescuedByScaling, sortStretched } from '@keen-relay/core/printing';
import { db } from '$lib/server/db/index.ts';
import { boardSide } from '$lib/server/queries/sides.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { printGeometry, toleranceOf } from '@keen-relay/core/printing';
import { alignmentsOf } from '$lib/server/stations/print/print-run.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station, side: shown } = await stationPage(params.line, 'print', url);
	const side = run && shown?.id === run.boardSideId ? await boardSide(run.boardSideId) : null;
	if (!run || !side)
		return { station, readings: [], panel: null, toleranceUm: null, groups: [], rescued: 0, rMaxMm: 0, meanPpm: null, feedback: null };
	const { panel, rMaxMm } = printGeometry(side);
	const readings = await alignmentsOf(run.id, side);
	const toleranceUm = toleranceOf(side);
	const ppm = readings.map((r) => r.result.stretchPpm);
	return {
		station,
		readings,
		panel: { widthMm: panel.widthMm, heightMm: panel.heightMm },
		toleranceUm,
		groups: ppm.length ? sortStretched(ppm, rMaxMm, toleranceUm) : [],
		rescued: rescuedByScaling(ppm, rMaxMm, toleranceUm),
		rMaxMm,
		meanPpm: ppm.length ? mean(ppm) : null,
		feedback: await feedbackOf(run.id)
	};
}

/** Panels that a correction is averaged over. */
const AVERAGED = 8;

/** What the paste inspection's offsets of the latest panels ask for, damped; null where none was measured. */
async function feedbackOf(runId: number) {
	const rows = await db
		.selectFrom('pasteSummary')
		.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
		.innerJoin('print', (join) =>
			join.onRef('print.passId', '=', 'panelPass.id').onRef('print.printAttempt', '=', 'pasteSummary.printAttempt')
		)
		.select(['pasteSummary.offsetXUm', 'pasteSummary.offsetYUm', 'print.stroke'])
		.where('panelPass.runId', '=', runId)
		.where('pasteSummary.offsetXUm', 'is not', null)
		.orderBy('pasteSummary.measuredAt', 'desc')
		.limit(AVERAGED)
		.execute();
	if (rows.length === 0) return null;
	const along = (axis: 'offsetXUm' | 'offsetYUm') => offsetCorrection(rows.map((r) => ({ offsetUm: r[axis]!, stroke: r.stroke })));
	return { panels: rows.length, x: along('offsetXUm'), y: along('offsetYUm') };
}
