import { programAge } from '@keen-relay/core/balance';
import { noData } from '@keen-relay/core/judgement';
import { machineData } from '$lib/stations/index.ts';
import type { GivenWork } from '$lib/workers/program-work.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { openJobsOf } from '$lib/server/queries/needs.ts';
import { enteredFacts } from '$lib/server/queries/packages.ts';
import { correctedSince } from '$lib/server/queries/stations.ts';
import { planFor } from '$lib/server/stations/place/program.ts';

/** The way of a placer's head for a side, what it is made from, and whom another one concerns. */
export async function load({ params, url, depends }) {
	depends('live:boards', 'live:line');
	const { side, sides, parts, station, stations, ready, lineId, run } = await stationPage(params.line, 'place', url, params.station);
	const own = { station: { id: station.id, name: station.name }, lineId, sides };
	if (!side || !parts) return { ...own, side: null, verdict: noData('No board to place yet.', ['Read the files of a board']) };
	const placers = stations.filter((s) => s.role === 'place').map((s) => s.name);
	const old = ready.program ? programAge(ready.program, placers, await correctedSince(lineId, 'place', ready.program.createdAt)) : null;
	const released = old?.misfit ? null : ready.program;
	const [facts, jobs] = await Promise.all([enteredFacts(), openJobsOf(side.id)]);
	const names = new Set(parts.map((part) => part.packageName));
	const work: GivenWork = {
		parts: parts.map((part) => ({ ...part, apertures: [] })),
		panel: side.geometry,
		machines: stations.flatMap((s) => {
			const data = machineData(s, 'place');
			return data ? [{ ...data.placer, name: s.name }] : [];
		}),
		facts: Object.fromEntries([...facts].filter(([name]) => names.has(name)))
	};
	return {
		...own,
		side: { id: side.id, name: side.name, side: side.side, widthMm: side.widthMm, heightMm: side.heightMm },
		verdict: null,
		work,
		plan: released?.plan ?? (await planFor(side.id, lineId)),
		released: ready.program?.revision ?? null,
		old,
		running: side.running && run ? { number: run.number, revision: run.programRevision } : null,
		jobs
	};
}
