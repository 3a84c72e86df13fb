import { judgeChart } from '@keen-relay/core/control';
import { CHART_BASELINE, withoutStrokeAndWipe } from '@keen-relay/core/inspection';
import { PAD_CLASS_NAMES, type PadClass } from '@keen-relay/core/parts';
import { db } from '$lib/server/db/index.ts';
import { currentLimits } from '$lib/server/stations/paste-check/limits.ts';
import { chartBaseline } from '$lib/server/queries/chart-baseline.ts';
import { pasteSeries, pasteSeriesFrom } from '$lib/server/queries/results.ts';
import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends }) {
	depends('live:results', 'live:line');
	const { side, run, station } = await stationPage(params.line, 'pasteCheck', url);
	const base = run ? await chartBaseline(run.id) : null;
	const [series, first] = run
		? await Promise.all([pasteSeries(run.id, 120), pasteSeriesFrom(run.id, base!.fromAt, CHART_BASELINE)])
		: [[], []];
	// What the limits stand on is counted in, whether or not it is still drawn.
	const inBaseline = new Set(first.map((s) => s.measuredAt.getTime()));
	const undrawn = first.filter((s) => s.measuredAt < (series[0]?.measuredAt ?? s.measuredAt));
	const all = [...undrawn, ...series];
	const isBase = (i: number) => inBaseline.has(all[i]!.measuredAt.getTime());
	const classes = [...new Set(series.flatMap((s) => Object.keys(s.classMeans) as PadClass[]))];
	const chosen = (url.searchParams.get('class') ?? 'all') as PadClass | 'all';
	const means = all.map((s) => (chosen === 'all' ? s.meanVolumePct : (s.classMeans[chosen] ?? 0)));
	const { cleared } = withoutStrokeAndWipe(means, all, isBase);
	const values = cleared.slice(undrawn.length);
	const name = chosen === 'all' ? 'Mean volume, all pads' : `Mean volume, ${PAD_CLASS_NAMES[chosen] ?? chosen}`;
	const { limits, revision } = await currentLimits(db);
	return {
		side,
		limits,
		limitRevision: revision,
		station,
		runId: run?.id ?? null,
		foilUm: run?.foilUm ?? null,
		series: series.map(({ serial, result, fails, warnings, pads, measuredAt, worst, stroke }, i) => ({
			serial,
			result,
			fails,
			warnings,
			pads,
			measuredAt,
			worst,
			stroke,
			value: values[i]!
		})),
		classes: classes.map((key) => ({ key, name: PAD_CLASS_NAMES[key] })),
		chosen,
		name,
		baseline: base && { ...base, panels: first.length, needed: CHART_BASELINE },
		control: judgeChart(
			name,
			'%',
			values,
			cleared.filter((_, i) => isBase(i))
		)
	};
}
