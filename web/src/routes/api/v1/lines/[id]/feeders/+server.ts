import { feedersOf } from '$lib/server/line/work.ts';
import { currentRun } from '$lib/server/queries/runs.ts';
import { stationsOf } from '$lib/server/queries/stations.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'What each slot of a line holds for its run: part, reel, pieces left; null without a run.',
	run: async ({ id }) => {
		const run = await currentRun(id);
		if (!run) return null;
		const [machines, stations] = await Promise.all([feedersOf(run), stationsOf(id)]);
		return { runId: run.id, machines: machines.map((m) => ({ stationId: stations.find((s) => s.name === m.name)?.id ?? null, ...m })) };
	}
});
