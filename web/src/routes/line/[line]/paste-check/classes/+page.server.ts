import { classCapability, ewmaChart, individualsChart } from '@keen-relay/core/control';
import { mean, median } from '@keen-relay/core/numerics';
import { PAD_CLASS_NAMES, PAD_CLASSES, type PadClass } from '@keen-relay/core/parts';
import { wipeInterval } from '@keen-relay/core/printing';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { currentLimits } from '$lib/server/paste-check/limits.ts';
import { inspectedPanels, signatureRun } from '$lib/server/paste-check/run-readings.ts';

export async function load({ params, url, depends }) {
	depends('live:results');
	const { run, station } = await stationPage(params.line, 'pasteCheck', url);
	const { limits } = await currentLimits(db);
	const readings = run ? await signatureRun(run.id, (await inspectedPanels(run.id)).slice(-80)) : null;
	if (!readings || readings.panels.length < 4) return { station, classes: [], panels: readings?.panels.length ?? 0 };
	const n = readings.pads.length;
	const classes = PAD_CLASSES.flatMap((padClass: PadClass) => {
		const pads = readings.pads.flatMap((p, i) => (p.padClass === padClass ? [i] : []));
		if (pads.length === 0) return [];
		const byPad = pads.map((p) => readings.panels.map((_, m) => readings.volumePct[m * n + p]!).filter((v) => v === v));
		const panelMean = readings.panels.map((_, m) => mean(pads.map((p) => readings.volumePct[m * n + p]!).filter((v) => v === v)));
		const [low, high] = limits[padClass].volumePct.fail;
		const capability = classCapability(byPad, low, high);
		// Stroke and wipe phase are taken out before the chart: else the sawtooth widens the limits and hides faults.
		const noStroke = less(panelMean, (m) => readings.panels[m]!.stroke);
		const cleared = less(noStroke, (m) => String(readings.panels[m]!.printsSinceWipe));
		const chart = individualsChart(cleared);
		const sigma = chart.meanMovingRange / 1.128;
		const advice = wipeInterval(
			readings.panels.map((p, m) => ({ sinceWipe: p.printsSinceWipe, meanPct: noStroke[m]! })),
			capability?.sigma ?? 5,
			low
		);
		return [
			{
				padClass,
				name: PAD_CLASS_NAMES[padClass],
				pads: pads.length,
				limits: { low, high },
				capability,
				chart,
				ewma: sigma > 0 ? ewmaChart(cleared, chart.centre, sigma) : null,
				advice,
				series: readings.panels.map((p, m) => ({
					serial: p.serial,
					stroke: p.stroke,
					sinceWipe: p.printsSinceWipe,
					value: noStroke[m]!,
					cleared: cleared[m]!
				}))
			}
		];
	});
	return { station, classes, panels: readings.panels.length };
}

/** A series with the medians of its groups taken out and the whole level kept; groups of fewer than three stay as they are. */
function less(values: readonly number[], groupOf: (i: number) => string): number[] {
	const groups = new Map<string, number[]>();
	values.forEach((v, i) => groups.set(groupOf(i), [...(groups.get(groupOf(i)) ?? []), v]));
	const level = median([...values]);
	return values.map((v, i) => {
		const own = groups.get(groupOf(i))!;
		return own.length < 3 ? v : v - median(own) + level;
	});
}
