import { causeText, explainResiduals, panelPads } from '@keen-relay/core/inspection';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { inspectedPanels, oncePerPanel, signatureRun } from '$lib/server/queries/readings.ts';
import { casesOf, causesNow } from '$lib/server/stations/paste-check/signatures.ts';
import { currentModel } from '$lib/server/queries/transfer.ts';
import { boardSide } from '$lib/server/queries/sides.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station, lineId } = await stationPage(params.line, 'pasteCheck', url);
	// A job that is over can be looked back on.
	const asked = Number(url.searchParams.get('run'));
	const runId = asked || run?.id || null;
	const past = await db
		.selectFrom('run')
		.innerJoin('job', 'job.id', 'run.jobId')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.select(['run.id', 'job.number', 'boardSide.side', 'run.endedAt'])
		.where('run.lineId', '=', lineId)
		.orderBy('run.startedAt', 'desc')
		.limit(8)
		.execute();
	if (runId === null) return { station, runId, past, report: null, cases: [], explained: null, panels: [], pads: [] };
	const whose = await db.selectFrom('run').select('boardSideId').where('id', '=', runId).executeTakeFirst();
	const whole = whose && (await boardSide(whose.boardSideId));
	const [{ report }, cases, panels] = await Promise.all([causesNow(runId), casesOf(runId), inspectedPanels(runId)]);
	const { readings, explained } = await oncePerPanel(runId, 'explained', '', async () => {
		const of = await signatureRun(runId, panels.slice(-36));
		return {
			readings: of && { pads: of.pads, panels: of.panels },
			explained: of && of.panels.length >= 12 ? explainResiduals(of, await currentModel()) : null
		};
	});
	const pads = readings?.pads ?? (whole ? panelPads(whole, 100) : []);
	return {
		station,
		runId,
		past,
		report: { ...report, signatures: report.signatures.map((s) => ({ ...s, text: causeText(s.code) })) },
		cases,
		explained,
		panels: (readings?.panels ?? []).map(({ serial, stroke, printsSinceWipe, printsSinceTopup, tMin }) => ({
			serial,
			stroke,
			printsSinceWipe,
			printsSinceTopup,
			tMin
		})),
		pads: pads.map((p) => ({ name: p.name, xMm: p.xMm, yMm: p.yMm, sizeMm: p.minSideMm }))
	};
}
