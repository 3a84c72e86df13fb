import { PAD_CLASS_NAMES } from '@keen-relay/core/parts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { oncePerPanel } from '$lib/server/queries/readings.ts';
import { consequencesOf } from '$lib/server/stations/paste-check/consequences.ts';

/** Costs that the page starts with, in any one currency: the plant enters its own. */
const START = { stop: 0.05, defect: 6 };

const cost = (text: string | null, start: number) => (text !== null && Number(text) > 0 ? Number(text) : start);

export async function load({ params, url, depends }) {
	depends('live:results');
	const { station, side, run } = await stationPage(params.line, 'pasteCheck', url);
	const stop = cost(url.searchParams.get('stop'), START.stop);
	const defect = Math.max(stop * 1.01, cost(url.searchParams.get('defect'), START.defect));
	const compute = () => consequencesOf(side!.id, stop, defect);
	const classes = !side ? [] : run ? await oncePerPanel(run.id, 'consequences', `${side.id} ${stop} ${defect}`, compute) : await compute();
	return {
		station,
		board: side ? side.name : null,
		costs: { stop, defect },
		classes: classes.map((c) => ({ ...c, name: PAD_CLASS_NAMES[c.padClass] }))
	};
}
