import { takeChartBaseline } from '$lib/server/stations/paste-check/chart-baseline.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'limits.set',
	does: 'Takes the baseline of a run’s control charts anew, from its latest 25 panels: their limits stand on it from then on.',
	status: 201,
	run: ({ actor, id }) => takeChartBaseline(actor, id)
});
