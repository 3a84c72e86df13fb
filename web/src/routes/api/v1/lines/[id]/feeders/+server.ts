import { slotMark } from '@keen-relay/core/feeders';
import { feedersOf } from '$lib/server/line/work.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { currentRun } from '$lib/server/queries/runs.ts';
import { stationsOf } from '$lib/server/queries/stations.ts';
import { route } from '$lib/server/route.ts';
import { slotsOf } from '$lib/server/queries/slots.ts';

export const GET = route({
	who: 'signedIn',
	does: 'What each slot of a line holds for its run: part, reel, pieces left, its feeder, and whether it is right by scan; null without a run.',
	run: async ({ id }) => {
		const run = await currentRun(id);
		if (!run) return null;
		const [machines, stations, { slots }] = await Promise.all([feedersOf(run), stationsOf(id), slotsOf(run, id, await plantNow())]);
		return {
			runId: run.id,
			machines: machines.map(({ name, feeders, ...rest }) => ({
				stationId: stations.find((s) => s.name === name)?.id ?? null,
				name,
				...rest,
				feeders: feeders.map((of) => {
					const stands = slots.find((s) => s.station === name && s.slot === of.slot);
					return { ...of, feeder: stands?.feeder ?? null, mark: stands ? slotMark(stands) : ('open' as const) };
				})
			}))
		};
	}
});
