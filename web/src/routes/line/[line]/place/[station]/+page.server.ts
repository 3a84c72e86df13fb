import { programAge } from '@keen-relay/core/balance';
import { judgePace } from '@keen-relay/core/line';
import { machineData, stagesOf } from '$lib/stations/index.ts';
import { slotsOf } from '$lib/server/queries/slots.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { planFor } from '$lib/server/stations/place/program.ts';
import { correctedSince } from '$lib/server/queries/stations.ts';
import { stationPage } from '$lib/server/line/station-page.ts';

export async function load({ params, url, depends, parent }) {
	depends('live:boards', 'live:results', 'live:line', 'live:parts');
	const { side, sides, station, stations, ready, lineId, run } = await stationPage(params.line, 'place', url, params.station);
	const placer = { ...machineData(station, 'place')!.placer, name: station.name };
	if (!side)
		return {
			side,
			sides,
			station,
			placer,
			lineId,
			plan: null,
			program: null,
			old: null,
			released: null,
			takt: null,
			stages: [],
			slots: [],
			loaded: []
		};
	const running = side.running ? run : null;
	// What runs keeps the program that it was begun with; what is to come is looked at again where the line was changed since.
	const placers = stations.filter((s) => s.role === 'place').map((s) => s.name);
	const old =
		running || !ready.program ? null : programAge(ready.program, placers, await correctedSince(lineId, 'place', ready.program.createdAt));
	const released = old?.misfit ? null : ready.program;
	const program = running ? { revision: running.programRevision, plan: running.plan } : released;
	const plan = program?.plan ?? (await planFor(side.id, lineId));
	const belt = (running?.recipe ?? ready.recipe?.recipe)?.beltCmPerMin ?? null;
	const stages = stagesOf(stations, side, plan, belt);
	// What runs is timed as the line says; another board as it is planned.
	const planned = judgePace(
		stages.map(({ name, secondsPerPanel }) => ({ name, plannedS: secondsPerPanel, cyclesS: [] })),
		plan.byHand.length
	);
	const takt = running ? ((await parent()).line?.pace ?? planned) : planned;
	const timed = takt.byStation.map(({ name, secondsS }) => ({ name, secondsPerPanel: secondsS }));
	const line = running ? await slotsOf(running, lineId, await plantNow()) : null;
	const here = ({ stationId }: { stationId: number }) => stationId === station.id;
	const [slots, loaded] = [line?.slots.filter(here) ?? [], line?.loaded.filter(here) ?? []];
	return {
		side,
		sides,
		station,
		placer,
		lineId,
		plan,
		program: program ? { revision: program.revision } : null,
		old,
		released: ready.program?.revision ?? null,
		takt: { taktS: takt.taktS, verdict: takt.verdict },
		stages: timed,
		slots,
		loaded
	};
}
