import { plantNow } from '$lib/server/plant/clock.ts';
import { readinessOf } from '$lib/server/stations/print/ready.ts';

/** The set-up of the run of the chosen line, point by point. */
export async function load({ depends, parent }) {
	depends('live:runs', 'live:line', 'live:boards', 'live:paste', 'live:parts');
	const { line } = await parent();
	const run = line?.run ?? null;
	if (!line || !run) return { run: null, lineId: line?.id ?? null, ready: null };
	return { run, lineId: line.id, ready: await readinessOf(run, line.id, await plantNow()) };
}
