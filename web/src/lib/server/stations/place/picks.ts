import { judgeCare, type Wearing } from '@keen-relay/core/feeders';
import { pickReport, type PickReport } from '@keen-relay/core/placement';
import type { Verdict } from '@keen-relay/core/judgement';
import { db } from '../../db/index.ts';
import { faultsSinceCare, wearEvents, type WearEvent } from './wear-events.ts';
import { ruleNow } from '../../plant/rules.ts';
import type { CurrentRun } from '../summary.ts';

/** Picks are judged over so many panels: a bad feeder shows within a few of them, and what was mended is soon forgotten. */
export const LATEST_PANELS = 30;

/** How the picks of a placer go in its run: each slot, nozzle and reel, and what stands out among them. */
export async function picksOf(station: { id: number; name: string }, run: Pick<CurrentRun, 'id' | 'plan'>): Promise<PickReport> {
	const [panels, loads, feeders, nozzles] = await Promise.all([
		db
			.selectFrom('placementReport')
			.innerJoin('panelPass', 'panelPass.id', 'placementReport.passId')
			.select(['placementReport.placedAt', 'placementReport.lost', 'placementReport.nozzles'])
			.where('placementReport.stationId', '=', station.id)
			.where('panelPass.runId', '=', run.id)
			.orderBy('placementReport.placedAt', 'desc')
			.limit(LATEST_PANELS)
			.execute(),
		db
			.selectFrom('feederLoad')
			.select(['slot', 'reel', 'loadedAt'])
			.where('stationId', '=', station.id)
			.where('runId', '=', run.id)
			.orderBy('loadedAt')
			.execute(),
		db.selectFrom('feeder').select(['code', 'slot', 'caredAt']).where('stationId', '=', station.id).execute(),
		db.selectFrom('nozzle').select(['name', 'caredAt']).where('stationId', '=', station.id).where('caredAt', 'is not', null).execute()
	]);
	const plan = run.plan.machines.find((m) => m.machine === station.name);
	return pickReport(
		panels.map(({ placedAt, lost, nozzles }) => ({ placedMs: placedAt.getTime(), lost, nozzles })),
		(plan?.loadList ?? []).map(({ slot, partNumber, perPanel }) => ({
			slot,
			partNumber,
			perPanel,
			feeder: feeders.find((f) => f.slot === slot)?.code ?? null,
			caredMs: feeders.find((f) => f.slot === slot)?.caredAt?.getTime() ?? null,
			reels: loads.filter((l) => l.slot === slot).map(({ reel, loadedAt }) => ({ reel, loadedMs: loadedAt.getTime() }))
		})),
		Object.fromEntries(nozzles.map(({ name, caredAt }) => [name, caredAt!.getTime()]))
	);
}

export type Worn = Wearing & { lost: number; caredAt: Date | null; slot: number | null; outOfService: string | null };

/** What wears at a placer: the feeders that stand in it, and its nozzles. */
export async function wearingAt(
	stationId: number
): Promise<{ all: Worn[]; rules: { feederPicks: number; nozzlePicks: number }; events: WearEvent[]; verdict: Verdict | null }> {
	const [rules, feeders, nozzles, nozzleFaults, nozzleEvents] = await Promise.all([
		ruleNow('care'),
		db
			.selectFrom('feeder')
			.select(['code as name', 'picks', 'lost', 'caredPicks', 'caredAt', 'slot', 'outOfService'])
			.where('stationId', '=', stationId)
			.orderBy('slot')
			.execute(),
		db
			.selectFrom('nozzle')
			.select(['name', 'picks', 'lost', 'caredPicks', 'caredAt', 'outOfService'])
			.where('stationId', '=', stationId)
			.execute(),
		faultsSinceCare({ stationId }),
		wearEvents({ stationId })
	]);
	const codes = { feeders: feeders.map((f) => f.name) };
	const [feederFaults, feederEvents] = await Promise.all([faultsSinceCare(codes), wearEvents(codes)]);
	const all: Worn[] = [
		...feeders.map((f) => ({ kind: 'feeder' as const, ...f, faults: feederFaults.get(f.name) ?? 0 })),
		...nozzles
			.map((n) => ({ kind: 'nozzle' as const, ...n, slot: null, faults: nozzleFaults.get(n.name) ?? 0 }))
			.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
	];
	return { all, rules, events: [...feederEvents, ...nozzleEvents], verdict: judgeCare(all, rules) };
}
