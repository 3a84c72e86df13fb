import { CHART_BASELINE, CHART_PANELS, classReports, withBaseline } from '@keen-relay/core/inspection';
import { PAD_CLASS_NAMES } from '@keen-relay/core/parts';
import { replayAdaptiveWipe, wipeCosts } from '@keen-relay/core/printing';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { baselineFrom, chartBaseline } from '$lib/server/queries/chart-baseline.ts';
import { currentLimits } from '$lib/server/stations/paste-check/limits.ts';
import { inspectedPanels, oncePerPanel, signatureRun } from '$lib/server/queries/readings.ts';

const PANELS = 80;
/** Seconds of a wipe, cost of a second of the line and of one insufficient deposit: what the page starts with. */
const START = { wipeS: 18, second: 0.015, defect: 0.5 };

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station } = await stationPage(params.line, 'pasteCheck', url);
	const given = (name: string, start: number) => {
		const value = Number(url.searchParams.get(name) ?? NaN);
		return value > 0 && Number.isFinite(value) ? value : start;
	};
	const costs = { wipeS: given('wipe', START.wipeS), second: given('second', START.second), defect: given('defect', START.defect) };
	const { limits, revision } = await currentLimits(db);
	const base = run ? await chartBaseline(run.id) : null;
	const known = run
		? await oncePerPanel(run.id, 'classes', `${revision} ${base!.revision}`, async () => {
				const all = await inspectedPanels(run.id);
				const { panels, baseline } = withBaseline(all, baselineFrom(all, base!.fromAt), PANELS);
				const inBaseline = new Set(baseline.map((panel) => panel.serial));
				const readings = await signatureRun(run.id, panels);
				if (!readings || readings.panels.length < CHART_PANELS)
					return { panels: readings?.panels.length ?? 0, classes: null, baseline: 0, fixedEvery: 0 };
				return {
					panels: readings.panels.length,
					classes: classReports(readings, limits, (serial) => inBaseline.has(serial)),
					baseline: baseline.length,
					fixedEvery: Math.max(...readings.panels.map((p) => p.printsSinceWipe)) + 1
				};
			})
		: null;
	const about = { runId: run?.id ?? null, base: base && { ...base, panels: known?.baseline ?? 0, needed: CHART_BASELINE } };
	if (!known?.classes) return { ...about, station, classes: [], panels: known?.panels ?? 0, costs, economic: null, replays: {} };
	const { classes, fixedEvery } = known;
	const { best, costs: perPanel } = wipeCosts(
		costs.wipeS,
		costs.second,
		costs.defect,
		classes.map((c) => c.wipe)
	);
	return {
		...about,
		station,
		classes: classes.map((c) => ({ ...c, name: PAD_CLASS_NAMES[c.padClass] })),
		panels: known.panels,
		costs,
		economic: { best, fixedEvery, atBest: perPanel[best - 1]!, now: perPanel[fixedEvery - 1] ?? null },
		/** The latest panels once more, with a wipe only where the next panel of the class was at risk. */
		replays: Object.fromEntries(
			classes.map((c) => [
				c.padClass,
				replayAdaptiveWipe(
					c.series.map((s) => ({ meanPct: s.value, sinceWipe: s.sinceWipe })),
					{ b: c.wipe.slope, sigma: c.wipe.sigma, lowestPct: c.limits.low },
					{ wipeS: costs.wipeS, fixedEvery }
				)
			])
		)
	};
}
