import { stagesOf, taktOf, planFor } from '$lib/server/boards/release.ts';
import { reels } from '$lib/server/db/results.ts';
import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends }) {
	depends('live:boards', 'live:results');
	const { side, sides, station, stations, ready, lineId, run } = await stationPage(params.line, 'place', url, params.station);
	if (!side) return { side, sides, station, lineId, plan: null, program: null, takt: null, stages: [], loaded: [] };
	const running = side.running ? run : null;
	const program = running ? { revision: running.programRevision, plan: running.plan } : ready.program;
	const plan = program?.plan ?? (await planFor(side.id, lineId));
	const belt = (running?.recipe ?? ready.recipe?.recipe)?.beltCmPerMin ?? null;
	const stages = stagesOf(stations, side, plan, belt);
	const loaded = running ? (await reels(running.id)).filter((reel) => reel.stationId === station.id) : [];
	return {
		side,
		sides,
		station,
		lineId,
		plan,
		program: program ? { revision: program.revision } : null,
		takt: taktOf(stages, plan.byHand.length),
		stages,
		loaded
	};
}
