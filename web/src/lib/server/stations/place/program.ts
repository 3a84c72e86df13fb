import { panelGeometry } from '@keen-relay/core/artwork';
import { planLine, type LinePlan } from '@keen-relay/core/balance';
import { machineData } from '$lib/stations/index.ts';
import { refuse } from '../../answer.ts';
import { type Actor } from '../../plant/log.ts';
import { packageReader } from '../../queries/packages.ts';
import { release } from '../../queries/revisions.ts';
import { sideOrRefuse } from '../../queries/revisions.ts';
import { stationsOf } from '../../queries/stations.ts';

/** Deals a side's parts to the placers of a line: not saved. */
export async function planFor(sideId: number, lineId: number): Promise<LinePlan> {
	const [side, stations] = await Promise.all([sideOrRefuse(sideId), stationsOf(lineId)]);
	const placers = stations.flatMap((station) => {
		const data = machineData(station, 'place');
		return data ? [{ ...data.placer, name: station.name }] : [];
	});
	if (placers.length === 0) return refuse('line', lineId, 'This line has no placer.');
	return planLine(side.parts, panelGeometry(side, side.panel, side.side), placers, await packageReader());
}

export async function releaseProgram(actor: Actor, sideId: number, lineId: number, startedFrom: number | null) {
	const side = await sideOrRefuse(sideId);
	const plan = await planFor(sideId, lineId);
	return release(
		actor,
		'placementProgram',
		sideId,
		lineId,
		'program.release',
		(r) => `${side.name} ${side.side}, program ${r}`,
		{
			plan: JSON.stringify(plan)
		},
		startedFrom
	);
}
