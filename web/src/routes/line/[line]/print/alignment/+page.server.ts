import { mean } from '@keen-relay/core/numerics';
import { sortStretched } from '@keen-relay/core/printing';
import { boardSide } from '$lib/server/db/boards.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { alignmentsOf, printGeometry, toleranceOf } from '$lib/server/printing/print-run.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station, side: shown } = await stationPage(params.line, 'print', url);
	const side = run && shown?.id === run.boardSideId ? await boardSide(run.boardSideId) : null;
	if (!run || !side) return { station, readings: [], panel: null, toleranceUm: null, groups: [], rMaxMm: 0, meanPpm: null };
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
		rMaxMm,
		meanPpm: ppm.length ? mean(ppm) : null
	};
}
