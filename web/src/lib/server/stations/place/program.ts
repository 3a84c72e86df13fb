import { panelGeometry } from '@keen-relay/core/artwork';
import { lineWork, planLine, type LinePlan } from '@keen-relay/core/balance';
import { machineData } from '$lib/stations/index.ts';
import { refuse, Refusal } from '../../answer.ts';
import { bounded } from '../../heavy/pool.ts';
import { type Actor } from '../../plant/log.ts';
import { packageReader } from '../../queries/packages.ts';
import { release, sideOrRefuse } from '../../queries/revisions.ts';
import { stationsOf } from '../../queries/stations.ts';

/** A side, its panel as the machines see it, and the placers of a line. */
async function placingOf(sideId: number, lineId: number) {
	const [side, stations, read] = await Promise.all([sideOrRefuse(sideId), stationsOf(lineId), packageReader()]);
	const placers = stations.flatMap((station) => {
		const data = machineData(station, 'place');
		return data ? [{ ...data.placer, name: station.name }] : [];
	});
	if (placers.length === 0) return refuse('line', lineId, 'This line has no placer.');
	return { side, panel: panelGeometry(side, side.panel, side.side), placers, read };
}

/** Deals a side's parts to the placers of a line: not saved. */
export async function planFor(sideId: number, lineId: number): Promise<LinePlan> {
	const { side, panel, placers, read } = await placingOf(sideId, lineId);
	return planLine(side.parts, panel, placers, read);
}

/** Judges a program from a file as if it were dealt here.
 * @throws {Refusal} with every reason, by line, where it cannot be run
 */
async function programFrom(text: string, sideId: number, lineId: number): Promise<LinePlan> {
	const { side, panel, placers, read } = await placingOf(sideId, lineId);
	const { plan, issues } = await bounded('text', 'program', text, lineWork(side.parts, panel, placers, read));
	if (!plan) throw new Refusal(issues.filter(({ severity }) => severity === 'error').slice(0, 200));
	return plan;
}

/** @param text a program from a file; null: the parts are dealt here */
export async function releaseProgram(actor: Actor, sideId: number, lineId: number, startedFrom: number | null, text: string | null) {
	const side = await sideOrRefuse(sideId);
	const plan = text === null ? await planFor(sideId, lineId) : await programFrom(text, sideId, lineId);
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
