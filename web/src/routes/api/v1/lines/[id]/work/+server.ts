import { requireMachine } from '$lib/server/people/access.ts';
import { answer, idOf } from '$lib/server/answer.ts';
import { stationsOf } from '$lib/server/queries/stations.ts';
import { workOf } from '$lib/server/line/work.ts';

/** What the machines of a line are to build now, and the stations that are to build it. */
export async function GET({ locals, params, url }) {
	return answer(async () => {
		requireMachine(locals);
		const lineId = idOf(params.id);
		const work = await workOf(lineId);
		// A machine that knows the run already asks only whether it is still on.
		if (work && url.searchParams.get('known') === String(work.runId))
			return {
				work: {
					runId: work.runId,
					ended: work.ended,
					mayPrint: work.mayPrint,
					setting: work.setting,
					panels: work.panels,
					serials: work.serials,
					jar: work.jar,
					cured: work.cured
				},
				stations: []
			};
		const stations = await stationsOf(lineId);
		return { work, stations: stations.map(({ id, name, role, spec }) => ({ id, name, role, spec })) };
	});
}
