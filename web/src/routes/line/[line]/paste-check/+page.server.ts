import { judgeChart } from '@keen-relay/core/control';
import { withoutStrokeAndWipe } from '@keen-relay/core/inspection';
import { PAD_CLASS_NAMES, type PadClass } from '@keen-relay/core/parts';
import { db } from '$lib/server/db/index.ts';
import { currentLimits } from '$lib/server/stations/paste-check/limits.ts';
import { pasteSeries } from '$lib/server/queries/results.ts';
import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends }) {
	depends('live:results', 'live:line');
	const { side, run, station } = await stationPage(params.line, 'pasteCheck', url);
	const series = run ? await pasteSeries(run.id, 120) : [];
	const classes = [...new Set(series.flatMap((s) => Object.keys(s.classMeans) as PadClass[]))];
	const chosen = (url.searchParams.get('class') ?? 'all') as PadClass | 'all';
	const means = series.map((s) => (chosen === 'all' ? s.meanVolumePct : (s.classMeans[chosen] ?? 0)));
	const values = withoutStrokeAndWipe(means, series).cleared;
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
		control: judgeChart(name, '%', values)
	};
}
